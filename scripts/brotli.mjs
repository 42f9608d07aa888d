// Packs files with Brotli (RFC 7932) beside them, as tightly as it can: it is done once, at build.
import { readFileSync, writeFileSync } from 'node:fs'
import { brotliCompressSync, constants } from 'node:zlib'

/** For WebAssembly, found by trying. */
const ofCode = {
  [constants.BROTLI_PARAM_LGBLOCK]: 16,
  [constants.BROTLI_PARAM_NPOSTFIX]: 2,
  [constants.BROTLI_PARAM_NDIRECT]: 16,
}

for (const name of process.argv.slice(2)) {
  const file = readFileSync(name)
  const params = {
    [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY,
    [constants.BROTLI_PARAM_LGWIN]: constants.BROTLI_MAX_WINDOW_BITS,
    ...(name.endsWith('.wasm') ? ofCode : {}),
    [constants.BROTLI_PARAM_SIZE_HINT]: file.length,
  }
  writeFileSync(`${name}.br`, brotliCompressSync(file, { params }))
}
