import { useWakeLock } from '@vueuse/core'
import { computed, ref, watch, type Ref } from 'vue'
import { alarms, type Alarm } from './alarms'

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

/** Sound wakes at a tap alone. */
function wake(then: () => void): void {
  sound ??= new AudioContext()
  void sound.resume().then(then)
}

/** Wakes the sound at a tap, and lets it be heard once as a check. */
export const wakeSound = (): void => wake(() => tone(sound!.currentTime, 660))

/** The alarm as it rings, to be heard and felt once beside the mixer. */
export const tryAlarm = (): void => wake(ring)

function ring(): void {
  for (let i = 0; sound && i < 4; i++) tone(sound.currentTime + i * 0.6, i % 2 ? 880 : 660)
  navigator.vibrate?.([300, 150, 300])
}

/** How long what rang is said, ms. */
const SAID_FOR = 60_000

/** Rings when the time passes an alarm, wherever one is, and keeps the screen awake until then. */
export function useAlarm(now: Ref<Date>): { rang: Ref<Alarm[]>; dismiss: () => void } {
  const all = computed(() => Object.values(alarms.value).flat())
  const rang = ref<Alarm[]>([])
  let last = now.value.getTime()
  watch(now, (at) => {
    const due = all.value.filter((alarm) => alarm.due > last && alarm.due <= at.getTime())
    if (due.length) {
      ring()
      rang.value = [...rang.value, ...due]
    }
    rang.value = rang.value.filter((alarm) => at.getTime() - alarm.due < SAID_FOR)
    last = at.getTime()
  })
  const running = computed(() => all.value.some((alarm) => alarm.due > now.value.getTime()))
  // The system lets go of the screen whenever the page is out of sight; it is held again on return.
  const screen = useWakeLock()
  watch(
    running,
    (runs) => void (runs ? screen.request('screen') : screen.release()).catch(() => undefined), // as it pleases the system
    { immediate: true },
  )
  return { rang, dismiss: () => (rang.value = []) }
}
