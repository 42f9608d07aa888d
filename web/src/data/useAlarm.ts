import { onScopeDispose, watch, type Ref } from 'vue'

let sound: AudioContext | undefined

function tone(at: number, pitch: number): void {
  if (!sound) return
  const note = sound.createOscillator()
  const level = sound.createGain()
  note.frequency.value = pitch
  level.gain.setValueAtTime(0.3, at)
  level.gain.exponentialRampToValueAtTime(0.001, at + 0.5)
  note.connect(level).connect(sound.destination)
  note.start(at)
  note.stop(at + 0.5)
}

/** Wakes the sound at a tap, and lets it be heard once as a check. */
export function wakeSound(): void {
  sound ??= new AudioContext()
  void sound.resume().then(() => tone(sound!.currentTime, 660))
}

/** Rings when the time passes one of the due times, and keeps the screen awake until then. */
export function useAlarm(now: Ref<Date>, due: Ref<number[]>): void {
  let last = now.value.getTime()
  let lock: WakeLockSentinel | undefined
  watch(now, (at) => {
    if (due.value.some((time) => time > last && time <= at.getTime()) && sound) {
      for (let i = 0; i < 4; i++) tone(sound.currentTime + i * 0.6, i % 2 ? 880 : 660)
      navigator.vibrate?.([300, 150, 300])
    }
    last = at.getTime()
  })
  watch(
    () => due.value.some((time) => time > Date.now()),
    async (running) => {
      if (running && !lock) lock = await navigator.wakeLock?.request('screen').catch(() => undefined)
      if (!running) {
        await lock?.release()
        lock = undefined
      }
    },
    { immediate: true },
  )
  onScopeDispose(() => void lock?.release())
}
