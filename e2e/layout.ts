// What a person would trip over on a screen, read off the boxes as they are drawn.
import type { Page } from '@playwright/test'

export interface Finding {
  what:
    | 'texts overlap'
    | 'text is cut'
    | 'text leaves the screen'
    | 'control is small'
    | 'scrolls sideways'
    | 'out of sight'
  where: string
}

/** Looks at everything that can be seen now. */
export async function findings(page: Page): Promise<Finding[]> {
  return page.evaluate(() => {
    const found: { what: string; where: string }[] = []
    const slack = 2 // px: rounding, and the empty part of a letter's box
    const leastControl = 55.5
    const wide = innerWidth
    const high = innerHeight
    // Comb and roll are read sideways.
    const sideways = (e: Element) => !!e.closest('[data-sideways]')
    const name = (e: Element) => {
      const owner = e.closest('[class]') ?? e
      const text = (e.textContent ?? '').trim().replace(/\s+/g, ' ').slice(0, 40)
      return `${owner.tagName.toLowerCase()}.${[...owner.classList].join('.')} “${text}”`
    }
    const dialogs = [...document.querySelectorAll('[role="dialog"]')].filter((d) => d.checkVisibility())
    const top = dialogs.at(-1)
    const hidden = (e: Element) =>
      !e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) || !!e.closest('.visually-hidden')

    const svgOf = (e: Element) => (e instanceof SVGElement ? e.ownerSVGElement : null)

    interface Box {
      left: number
      top: number
      right: number
      bottom: number
    }
    const area = (b: Box) => Math.max(0, b.right - b.left) * Math.max(0, b.bottom - b.top)
    const both = (a: Box, b: Box): Box => ({
      left: Math.max(a.left, b.left),
      top: Math.max(a.top, b.top),
      right: Math.min(a.right, b.right),
      bottom: Math.min(a.bottom, b.bottom),
    })
    /** What of a box is in view, and whether a frame that does not scroll cuts it. */
    function seen(e: Element, box: Box): { box: Box; cut: boolean } {
      let rest = box
      let cut = false
      for (let at = e.parentElement; at && at !== document.documentElement; at = at.parentElement) {
        const style = getComputedStyle(at)
        if (at.tagName === 'svg' ? style.overflow === 'visible' : style.overflowX === 'visible') continue
        const frame = at.getBoundingClientRect()
        const left = both(rest, frame)
        const scrollsX = /auto|scroll/.test(style.overflowX)
        const scrollsY = /auto|scroll/.test(style.overflowY)
        if (!scrollsX && (rest.left < frame.left - slack || rest.right > frame.right + slack) && area(left) > 0)
          cut = true
        if (!scrollsY && (rest.top < frame.top - slack || rest.bottom > frame.bottom + slack) && area(left) > 0)
          cut = true
        rest = left
        if (area(rest) === 0) break
      }
      return { box: rest, cut }
    }

    // Texts, line by line.
    const texts: { of: Element; box: Box }[] = []
    const walker = document.createTreeWalker(top ?? document.body, NodeFilter.SHOW_TEXT)
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const of = node.parentElement!
      if (!node.nodeValue?.trim() || hidden(of) || /^(script|style|option|title|desc)$/i.test(of.tagName)) continue
      const range = document.createRange()
      range.selectNodeContents(node)
      const parent = getComputedStyle(of)
      if (parent.textOverflow === 'ellipsis' && of.scrollWidth > of.clientWidth + 1)
        found.push({ what: 'text is cut', where: name(of) })
      for (const rect of range.getClientRects()) {
        if (rect.width < 2 || rect.height < 2) continue
        // Letters stand in the middle of their line's box.
        const size =
          parseFloat(parent.fontSize) * (svgOf(of) ? rect.height / Math.max(1, parseFloat(parent.fontSize) * 1.3) : 1)
        const trim = Math.max(0, (rect.height - size * 0.8) / 2)
        const box = { left: rect.left, right: rect.right, top: rect.top + trim, bottom: rect.bottom - trim }
        const { box: rest, cut } = seen(of, box)
        if (area(rest) === 0) continue
        if (cut && !sideways(of)) found.push({ what: 'text is cut', where: name(of) })
        if (rest.left < -slack || rest.right > wide + slack || rest.top < -slack || rest.bottom > high + slack)
          found.push({ what: 'text leaves the screen', where: name(of) })
        texts.push({ of, box: rest })
      }
    }
    for (const [i, a] of texts.entries())
      for (const b of texts.slice(i + 1)) {
        if (a.of === b.of && !svgOf(a.of)) continue
        const shared = both(a.box, b.box)
        if (shared.right - shared.left > slack && shared.bottom - shared.top > slack)
          found.push({ what: 'texts overlap', where: `${name(a.of)} / ${name(b.of)}` })
      }

    for (const control of (top ?? document).querySelectorAll(
      'button, a[href], input:not([type=hidden]), textarea, select, [role=tab], [role=radio], [role=checkbox], [role=button]:not(path)',
    )) {
      if (hidden(control) || control.closest('svg')) continue
      const label = control.closest('label')
      const rect = (label ?? control).getBoundingClientRect()
      const { box } = seen(control, rect)
      if (area(box) === 0) continue
      if (rect.height < leastControl || rect.width < leastControl)
        found.push({
          what: 'control is small',
          where: `${name(control)} ${rect.width.toFixed(0)}×${rect.height.toFixed(0)}`,
        })
    }

    // The one thing to do, the keys of a number and the stage that is shown are in sight as they are.
    if (!top)
      for (const e of document.querySelectorAll(
        `.mitre, .stage.shown button, .slot.shown${document.documentElement.classList.contains('low') ? '' : ', .keys button'}`,
      )) {
        if (hidden(e)) continue
        const rect = e.getBoundingClientRect()
        const { box } = seen(e, both(rect, { left: 0, top: 0, right: wide, bottom: high }))
        if (area(box) < area(rect) * 0.98) found.push({ what: 'out of sight', where: name(e) })
      }

    for (const e of document.querySelectorAll('*')) {
      if (sideways(e) || e.scrollWidth <= e.clientWidth + 1 || hidden(e)) continue
      const style = getComputedStyle(e)
      if (/auto|scroll/.test(style.overflowX)) found.push({ what: 'scrolls sideways', where: name(e) })
    }
    if (document.documentElement.scrollWidth > wide + 1) found.push({ what: 'scrolls sideways', where: 'the page' })
    return found as never
  })
}
