// Files that leave the page: saved by the browser, made without a server.

export function saveFile(name: string, type: string, text: string | Blob): void {
  const url = URL.createObjectURL(text instanceof Blob ? text : new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}

/** A file's name from what it holds, safe on every system. */
export function fileName(parts: string[], ending: string): string {
  const words = parts
    .join('-')
    .toLowerCase()
    .split(/[^\p{L}\p{M}\p{N}]+/u)
  return `${words.filter(Boolean).join('-') || 'file'}.${ending}`
}

/** What of a computed style a drawing needs where there is no style sheet. */
const STYLES = [
  'fill',
  'stroke',
  'stroke-width',
  'stroke-dasharray',
  'stroke-linecap',
  'stroke-linejoin',
  'paint-order',
  'font-family',
  'font-size',
  'font-weight',
]

/** A drawing of the page as an SVG of its own, its looks written out. */
export function svgText(svg: SVGSVGElement, title: string): string {
  const copy = svg.cloneNode(true) as SVGSVGElement
  const from = svg.querySelectorAll('*')
  const to = copy.querySelectorAll('*')
  from.forEach((element, i) => {
    const style = getComputedStyle(element)
    // As attributes: a style attribute would be refused by the page's own policy.
    for (const name of STYLES) {
      const value = style.getPropertyValue(name)
      if (value) to[i]!.setAttribute(name, value.replace(/url\("[^#]*#/g, 'url("#'))
    }
    to[i]!.removeAttribute('style')
    for (const name of ['class', 'aria-label', 'aria-pressed', 'role', 'tabindex', 'data-tap'])
      to[i]!.removeAttribute(name)
  })
  copy.querySelectorAll('*').forEach((element) => {
    for (const attribute of [...element.attributes])
      if (attribute.name.startsWith('data-v-')) element.removeAttribute(attribute.name)
  })
  for (const { name } of [...copy.attributes]) if (name !== 'viewBox') copy.removeAttribute(name)
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg')
  const [, , width, height] = copy.getAttribute('viewBox')!.split(' ').map(Number)
  const mm = Number(svg.dataset.mmPerPx)
  copy.setAttribute('width', `${(width! * mm).toFixed(1)}mm`)
  copy.setAttribute('height', `${(height! * mm).toFixed(1)}mm`)
  const name = document.createElementNS('http://www.w3.org/2000/svg', 'title')
  name.textContent = title
  copy.prepend(name)
  return new XMLSerializer().serializeToString(copy)
}
