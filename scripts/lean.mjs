// Makes a WebAssembly module of Go's linker smaller to send; it computes the same after it.
//
// Data segments are joined: the linker parts its data at every run of zeros, and a hundred thousand headers with
// their addresses pack far worse than the zeros do. What leads from code back to its source goes, lines and names of
// functions but for the runtime's own, which it asks for: the page answers a panic with its text. Whoever must read
// a trace builds the same commit without this.
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

// The function table of Go's runtime (runtime/symtab.go, internal/abi/symtab.go): where its parts begin stands at
// its head, in 64 bits each; a function's row holds 32-bit offsets.
const TABLE = Buffer.from([0xf1, 0xff, 0xff, 0xff, 0, 0, 1, 8]) // layout of Go 1.20 on, steps of 1 byte, pointers of 8
const ROW = { name: 4, steps: 16, file: 20, line: 24, pieces: 28, unit: 32, first: 36, data: 44 }

function withoutSource(section) {
  const head = section.indexOf(TABLE)
  if (head < 0 || section.indexOf(TABLE, head + 1) >= 0) throw new Error("not the function table this was written for")
  const word = (at) => section.readUInt32LE(at)
  const [count, , , names, units, , values, rows] = Array.from({ length: 8 }, (_, i) =>
    Number(section.readBigUInt64LE(head + TABLE.length + 8 * i)),
  )
  const all = head + rows
  const own = Buffer.from('runtime.')
  const nameOf = (offset) => section.subarray(head + names + offset, section.indexOf(0, head + names + offset))
  const [kept, gone] = [new Set([0]), new Set()]
  const named = new Map() // the runtime's own functions, by where their names stand
  let nameless
  for (let i = 0; i < count; i++) {
    const row = all + word(all + 8 * i + 4)
    kept.add(word(row + ROW.steps))
    for (let k = 0; k < word(row + ROW.pieces); k++) kept.add(word(row + ROW.data + 4 * k))
    for (const field of [ROW.file, ROW.line]) gone.add(word(row + field))
    const name = word(row + ROW.name)
    if (nameOf(name).subarray(0, own.length).equals(own)) named.set(name, nameOf(name))
    else section.writeUInt32LE((nameless ??= name), row + ROW.name)
    for (const field of [ROW.file, ROW.line, ROW.unit, ROW.first]) section.writeUInt32LE(0, row + field)
  }
  const begins = [...new Set([...kept, ...gone, rows - values])].sort((a, b) => a - b)
  begins.forEach((begin, i) => {
    if (!kept.has(begin) && gone.has(begin)) section.fill(0, head + values + begin, head + values + begins[i + 1])
  })
  const texts = [...named].map(([at, name]) => [at, Buffer.from(name)])
  section.fill(0, head + names, head + units)
  for (const [at, name] of texts) name.copy(section, head + names + at)
  section.fill(0, head + units, head + values) // units of compilation and names of files
  return section
}

const HEAD = 8 // magic and version
for (const name of process.argv.slice(2)) {
  const module = readFileSync(name)
  const out = [module.subarray(0, HEAD)]
  for (let at = HEAD; at < module.length;) {
    const [length, begin] = number(module, at + 1)
    const end = begin + length
    if (module[at] === DATA) {
      const section = withoutSource(joined(module.subarray(begin, end)))
      out.push(Buffer.from([DATA]), written(section.length), section)
    } else out.push(module.subarray(at, end))
    at = end
  }
  writeFileSync(name, Buffer.concat(out))
}
