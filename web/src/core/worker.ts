// The WebAssembly door, in a worker: one function, text in and text out.
import './wasm_exec.js'
import { expose } from 'comlink'
import wasmUrl from './core.wasm?url'

declare global {
  var __core: (op: string, input: string) => string
  var __coreReady: () => void
}

async function start(): Promise<void> {
  const go = new Go()
  const ready = new Promise<void>((resolve) => {
    globalThis.__coreReady = resolve
  })
  const { instance } = await WebAssembly.instantiateStreaming(fetch(wasmUrl), go.importObject)
  void go.run(instance) // never resolves: the core stays
  await ready
}

const started = start()

const door = {
  async call(op: string, input: string): Promise<string> {
    await started
    return globalThis.__core(op, input)
  },
}

export type Door = typeof door

expose(door)
