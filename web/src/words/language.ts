// The language of the page: one file of words, which says itself how its numbers and dates are written.
import { computed, shallowRef } from 'vue'
import file from './en.json?url'

type Catalogue = Record<string, string>

/** Asked for beside the script, read before the first word is said. */
const english = (await (await fetch(file)).json()) as Catalogue

/** The words in use, by key; what a language does not say is said in English. */
export const catalogue = shallowRef<Catalogue>(english)

/** How numbers, dates and plurals are formed (BCP 47), for Intl. */
export const tag = computed(() => catalogue.value['language.tag']!)

/** The language in use. */
export const spoken = computed(() => catalogue.value['language'] ?? 'en')

/** The languages that are shipped beside English, by their tag: each is a file of this folder. */
export const offered = shallowRef<Record<string, string>>({})

const FOLDER = '/languages'
const KEPT = 'languages' // by person, on this device
const read = (): Record<string, string> => JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, string>

/** The language a person chose on this device; without a choice of theirs the one chosen last here. */
export const languageOf = (person = ''): string => read()[person] ?? read()[''] ?? 'en'

/** Keeps a person's language and speaks it. */
export async function chooseLanguage(person: string, to: string): Promise<void> {
  localStorage.setItem(KEPT, JSON.stringify({ ...read(), [person]: to, '': to }))
  await speak(to)
}

// Chosen in another window.
window.addEventListener('storage', (event) => {
  if (event.key === KEPT) void speak(languageOf())
})

/** Speaks a language; one that cannot be read leaves the page in the one it speaks. */
export async function speak(to: string): Promise<void> {
  if (to === spoken.value) return
  if (to === 'en') catalogue.value = english
  else {
    const answer = await fetch(`${FOLDER}/${encodeURIComponent(to)}.json`).catch(() => null)
    if (!answer?.ok) return
    catalogue.value = { ...english, ...((await answer.json()) as Catalogue), language: to }
  }
  document.documentElement.lang = tag.value
}

/** Asks which languages are shipped. */
export async function askLanguages(): Promise<void> {
  const answer = await fetch(`${FOLDER}/index.json`).catch(() => null)
  if (answer?.ok) offered.value = (await answer.json()) as Record<string, string>
}
