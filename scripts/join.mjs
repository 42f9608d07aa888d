// Joins the data segments of a WebAssembly module: Go's linker parts its data at every run of zeros, and a hundred
// thousand headers with their addresses pack far worse than the zeros do. The module means the same after it.
import { readFileSync, writeFileSync } from 'node:fs'

const APART = 65_536 // zeros between two segments that stay two, bytes

/** A number in LEB128 at a place: the number, and where the next thing stands. */
function number(bytes, at, signed = false) {
  let value = 0n
  for (let shift = 0n; ; shift += 7n) {
    const byte = bytes[at++]
    value |= BigInt(byte & 0x7f) << shift
    if (!(byte & 0x80)) {
      const below = signed && byte & 0x40 ? 1n << (shift + 7n) : 0n
      return [Number(value - below), at]
    }
  }
}

function written(value, signed = false) {
  const bytes = []
  for (;;) {
    const byte = value & 0x7f
    value = Math.floor(value / 128)
    const done = value === 0 && !(signed && byte & 0x40)
    bytes.push(done ? byte : byte | 0x80)
    if (done) return Buffer.from(bytes)
  }
}

const ACTIVE = 0 // of memory 0, at an address
const CONST = 0x41 // i32.const
const END = 0x0b
const DATA = 11

function joined(section) {
  let [count, at] = number(section, 0)
  const given = []
  while (count-- > 0) {
    if (section[at] !== ACTIVE || section[at + 1] !== CONST) throw new Error('a data segment of another kind')
    let address, length
    ;[address, at] = number(section, at + 2, true)
    if (section[at++] !== END) throw new Error('an address that is no number')
    ;[length, at] = number(section, at)
    given.push({ address, end: address + length, parts: [section.subarray(at, at + length)] })
    at += length
  }
  const segments = []
  for (const each of given.sort((a, b) => a.address - b.address)) {
    const last = segments.at(-1)
    const gap = last ? each.address - last.end : Infinity
    if (gap < 0) throw new Error('data segments lie over each other')
    if (gap > APART) segments.push(each)
    else {
      last.parts.push(Buffer.alloc(gap), ...each.parts)
      last.end = each.end
    }
  }
  const whole = segments.flatMap(({ address, end, parts }) => [
    Buffer.from([ACTIVE, CONST]),
    written(address, true),
    Buffer.from([END]),
    written(end - address),
    ...parts,
  ])
  return Buffer.concat([written(segments.length), ...whole])
}

const HEAD = 8 // magic and version
for (const name of process.argv.slice(2)) {
  const module = readFileSync(name)
  const out = [module.subarray(0, HEAD)]
  for (let at = HEAD; at < module.length;) {
    const [length, begin] = number(module, at + 1)
    const end = begin + length
    if (module[at] === DATA) {
      const section = joined(module.subarray(begin, end))
      out.push(Buffer.from([DATA]), written(section.length), section)
    } else out.push(module.subarray(at, end))
    at = end
  }
  writeFileSync(name, Buffer.concat(out))
}
