// A language nobody speaks, to see whether the page holds one that is longer: every text of the English file with
// accents and two fifths more letters, numbers with a comma.
import { readFileSync } from 'node:fs'
import type { BrowserContext, Page } from '@playwright/test'

const TAG = 'xx'
const accented: Record<string, string> = {
  a: 'á',
  e: 'é',
  i: 'í',
  o: 'ö',
  u: 'ü',
  c: 'ç',
  n: 'ñ',
  s: 'š',
  y: 'ý',
  z: 'ž',
}
const MORE = 0.4
const FILLING = 'lorum ipsod amet konsek '

/** A text with its slots as they are. */
function madeUp(text: string): string {
  const said = text
    .split(/(\{[^}]*\})/)
    .map((part) => (part.startsWith('{') ? part : part.replace(/[a-z]/g, (letter) => accented[letter] ?? letter)))
    .join('')
  const letters = text.replace(/\{[^}]*\}/g, '').replace(/[^a-z]/gi, '')
  const more = Math.round(letters.length * MORE)
  if (!more) return said
  // A short word grows; a longer text gets more words.
  if (more < 4) return said + letters.slice(-more)
  return `${said} ${FILLING.repeat(Math.ceil(more / FILLING.length))
    .slice(0, more - 1)
    .trim()}`
}

const KEEPS = /^(language\.|calendar\.|app\.name)/

/** Ships the made-up language beside English. */
export async function shipMadeUp(context: BrowserContext): Promise<void> {
  const english = JSON.parse(readFileSync('../web/src/words/en.json', 'utf8')) as Record<string, string>
  const words: Record<string, string> = {}
  for (const [key, text] of Object.entries(english)) words[key] = KEEPS.test(key) ? text : madeUp(text)
  words['language.tag'] = 'de'
  await context.route(`**/languages/${TAG}.json`, (route) => route.fulfill({ json: words }))
}

/** Speaks it from now on, or English again. */
export async function speakMadeUp(page: Page, is: boolean): Promise<void> {
  await page.evaluate(
    (tag) => {
      localStorage.setItem('languages', JSON.stringify({ '': tag }))
      dispatchEvent(new StorageEvent('storage', { key: 'languages' }))
    },
    is ? TAG : 'en',
  )
  await page.waitForFunction((lang) => document.documentElement.lang === lang, is ? 'de' : 'en-GB')
}
