import { ref, toRaw, watch, type Ref } from 'vue'
import { local } from './local'
import { isFull, keep as store } from './storage'
import { wellFormed } from './text'

/**
 * A form as it is being typed, kept in the local copy at each keystroke, before any check
 * answers. `start` is used where nothing was kept under the key.
 */
export function useDraft(key: () => string, start: () => Record<string, string>) {
  const typed: Ref<Record<string, string>> = ref({})
  const ready = ref(false)
  /** What the form was before each change; a run of keystrokes in one field is one change. */
  const past: Ref<Record<string, string>[]> = ref([])
  const future: Ref<Record<string, string>[]> = ref([])
  let lastField = ''

  /** A keystroke on its way to the local copy: a page that is closed before it is there still has it. */
  const underWay = () => `draft ${key()}`

  function remember(field: string): void {
    if (field === '' || field !== lastField) past.value = [...past.value.slice(-99), typed.value]
    lastField = field
    future.value = []
  }

  async function load(): Promise<void> {
    ready.value = false
    const kept = await local.drafts.get(key())
    const late = localStorage.getItem(underWay())
    typed.value = late ? (JSON.parse(late) as Record<string, string>) : (kept?.typed ?? start())
    past.value = []
    future.value = []
    lastField = ''
    ready.value = true
  }
  watch(key, () => void load(), { immediate: true })

  async function keep(as: Record<string, string>): Promise<void> {
    const all = wellFormed(as)
    typed.value = all
    const [name, text] = [underWay(), JSON.stringify(all)]
    try {
      localStorage.setItem(name, text)
    } catch {
      // the small store is full: the other may have room
    }
    try {
      await store(() => local.drafts.put({ key: key(), typed: { ...toRaw(all) } }))
    } catch (error) {
      if (!isFull.value) throw error
      return // the head says so; what was typed is on the screen, and in the small store
    }
    if (localStorage.getItem(name) === text) localStorage.removeItem(name)
  }

  async function type(field: string, text: string): Promise<void> {
    remember(field)
    await keep({ ...typed.value, [field]: text })
  }

  async function replace(all: Record<string, string>): Promise<void> {
    remember('')
    await keep(all)
  }

  async function undo(): Promise<void> {
    const before = past.value.at(-1)
    if (!before) return
    past.value = past.value.slice(0, -1)
    future.value = [typed.value, ...future.value]
    lastField = ''
    await keep(before)
  }

  async function redo(): Promise<void> {
    const [next, ...rest] = future.value
    if (!next) return
    past.value = [...past.value, typed.value]
    future.value = rest
    lastField = ''
    await keep(next)
  }

  /** What was recorded leaves the form; what was typed since stays. */
  async function recorded(what: Record<string, string>): Promise<void> {
    await replace(Object.fromEntries(Object.entries(typed.value).filter(([field, text]) => what[field] !== text)))
  }

  async function drop(): Promise<void> {
    localStorage.removeItem(underWay())
    await local.drafts.delete(key())
  }

  /** Nothing was typed yet, or all of it was kept. */
  async function untouched(): Promise<boolean> {
    return localStorage.getItem(underWay()) === null && (await local.drafts.get(key())) === undefined
  }

  return { typed, ready, past, future, type, replace, undo, redo, recorded, drop, load, untouched }
}

/** A form without the fields that are no answers. */
export const without = <T extends object, F extends string>(of: T, ...fields: F[]): Omit<T, F> =>
  Object.fromEntries(Object.entries(of).filter(([field]) => !(fields as string[]).includes(field))) as Omit<T, F>
