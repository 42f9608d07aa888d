// The WebAssembly door, in a worker: text in and text out. It keeps jobs folded.
import './wasm_exec.js'
import { expose } from 'comlink'
import wasmUrl from './core.wasm?url'

declare global {
  var __core: (op: string, input: string) => string
  var __coreLoad: (job: string, entries: string) => string
  var __coreChange: (job: string, added: string, gone: string) => string
  var __coreDrop: (job: string) => string
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
  async load(job: string, entries: string): Promise<string> {
    await started
    return globalThis.__coreLoad(job, entries)
  },
  async change(job: string, added: string, gone: string): Promise<string> {
    await started
    return globalThis.__coreChange(job, added, gone)
  },
  async drop(job: string): Promise<string> {
    await started
    return globalThis.__coreDrop(job)
  },
}

export type Door = typeof door

expose(door)
