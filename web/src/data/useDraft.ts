import { ref, toRaw, watch, type Ref } from 'vue'
import { local } from './local'

/**
 * A form as it is being typed, kept in the local copy at each keystroke, before any check
 * answers. `start` is used where nothing was kept under the key.
 */
export function useDraft(key: () => string, start: () => Record<string, string>) {
  const typed: Ref<Record<string, string>> = ref({})
  const ready = ref(false)

  async function load(): Promise<void> {
    ready.value = false
    const kept = await local.drafts.get(key())
    typed.value = kept?.typed ?? start()
    ready.value = true
  }
  watch(key, () => void load(), { immediate: true })

  async function type(field: string, text: string): Promise<void> {
    typed.value = { ...typed.value, [field]: text }
    await local.drafts.put({ key: key(), typed: { ...toRaw(typed.value) } })
  }

  async function replace(all: Record<string, string>): Promise<void> {
    typed.value = all
    await local.drafts.put({ key: key(), typed: { ...all } })
  }

  /** What was recorded leaves the form; what was typed since stays. */
  async function recorded(what: Record<string, string>): Promise<void> {
    await replace(Object.fromEntries(Object.entries(typed.value).filter(([field, text]) => what[field] !== text)))
  }

  async function drop(): Promise<void> {
    await local.drafts.delete(key())
  }

  /** Nothing was typed yet, or all of it was kept. */
  async function untouched(): Promise<boolean> {
    return (await local.drafts.get(key())) === undefined
  }

  return { typed, ready, type, replace, recorded, drop, load, untouched }
}
