// Two ways to work a page: by touch alone, as on a tablet in the room, and by keys alone, as at a desk or with a wet
// screen. Neither has a pointer that hovers.
import { expect, type Locator, type Page } from '@playwright/test'

export interface Hand {
  /** Presses a key, a row, a box to tick. */
  press(what: Locator): Promise<void>
  /** Writes a text into a field, over what stood there. */
  write(field: Locator, text: string): Promise<void>
  /** Types a number where one is asked large, by the keys beside it or those of a keyboard. */
  number(text: string): Promise<void>
  /** Touches a mark on the drawing, by its name there. */
  mark(id: string): Promise<void>
  /** Picks a tooth of the comb. */
  tooth(name: string): Promise<void>
}

export function touch(page: Page): Hand {
  const press = (what: Locator) => what.tap()
  return {
    press,
    async write(field, text) {
      await press(field)
      await page.keyboard.press('Control+a') // the tablet's own keyboard
      await page.keyboard.insertText(text)
    },
    async number(text) {
      const keys = page.locator('.pad .keys')
      for (const key of text) await press(keys.getByRole('button', { name: key, exact: true }))
    },
    mark: (id) => press(page.locator(`[data-tap="${id}"]`)),
    tooth: (name) => press(page.getByRole('radio', { name, exact: true })),
  }
}

/** More than any screen has to go through. */
const MOST_STOPS = 250

export function keys(page: Page): Hand {
  const isAt = (what: Locator) => what.evaluate((e) => e === document.activeElement)

  /** How many stops away it should be, forward or back. */
  const away = (what: Locator) =>
    what.evaluate((e) => {
      const stops = [...document.querySelectorAll<HTMLElement>('a[href], button, input, select, textarea, [tabindex]')]
      const open = stops.filter((stop) => stop.tabIndex >= 0 && !stop.matches(':disabled') && stop.checkVisibility())
      const here = open.indexOf(document.activeElement as HTMLElement)
      return open.indexOf(e as HTMLElement) - here
    })

  /** Goes on from stop to stop until one is there; among several of one, by the arrows. */
  async function reach(what: Locator): Promise<void> {
    await expect(what).toBeVisible()
    const oneOf = what.and(page.locator('[role="radio"][tabindex="-1"], [role="tab"][tabindex="-1"]'))
    if (await oneOf.count()) {
      await reach(oneOf.locator('xpath=..').locator('[tabindex="0"]'))
      for (let step = 0; step < MOST_STOPS && !(await isAt(what)); step++) await page.keyboard.press('ArrowDown')
      return
    }
    const stops = await away(what)
    for (let stop = 0; stop < Math.abs(stops); stop++) await page.keyboard.press(stops > 0 ? 'Tab' : 'Shift+Tab')
    // Where the count was wrong, one after the other.
    for (let stop = 0; stop < MOST_STOPS; stop++) {
      if (await isAt(what)) return
      await page.keyboard.press('Tab')
    }
    throw new Error(`no way by keys to ${String(what)}`)
  }
  return {
    async press(what) {
      await reach(what)
      const box = await what.evaluate((e) => e instanceof HTMLInputElement && /radio|checkbox/.test(e.type))
      await page.keyboard.press(box ? 'Space' : 'Enter')
    },
    async write(field, text) {
      await reach(field)
      await page.keyboard.press('Control+a')
      await page.keyboard.type(text)
    },
    async number(text) {
      await reach(page.locator('.pad input'))
      await page.keyboard.press('Control+a')
      await page.keyboard.type(text)
    },
    async mark(id) {
      const target = page.locator(`[data-tap="${id}"]`)
      await reach(page.locator('[data-tap][tabindex="0"]').first())
      // By the arrows towards it, as one who sees it would.
      for (let step = 0; step < 40 && !(await isAt(target)); step++) {
        const arrow = await target.evaluate((to) => {
          const middle = (e: Element) => {
            const box = e.getBoundingClientRect()
            return { x: box.x + box.width / 2, y: box.y + box.height / 2 }
          }
          const [from, end] = [middle(document.activeElement!), middle(to)]
          const [x, y] = [end.x - from.x, end.y - from.y]
          if (Math.abs(x) > Math.abs(y)) return x > 0 ? 'ArrowRight' : 'ArrowLeft'
          return y > 0 ? 'ArrowDown' : 'ArrowUp'
        })
        await page.keyboard.press(arrow)
      }
      expect(await isAt(target), `the arrows lead to ${id}`).toBe(true)
      await page.keyboard.press('Enter')
    },
    async tooth(name) {
      const target = page.getByRole('radio', { name, exact: true })
      await reach(page.locator('.comb [role="radio"][tabindex="0"]'))
      for (let step = 0; step < 60 && !(await isAt(target)); step++) await page.keyboard.press('ArrowRight')
      expect(await isAt(target), `the arrows lead to the tooth ${name}`).toBe(true)
      await page.keyboard.press('Enter')
    },
  }
}
