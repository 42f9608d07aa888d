import type { App } from 'vue'
import 'vuetify/styles/core'
import { createVuetify, type ThemeDefinition } from 'vuetify'

/** Vuetify's names of colours, each by its token: all of its own are set, or its defaults would show through. */
const tokens = {
  background: 'sheet',
  surface: 'sheet',
  'on-background': 'ink',
  'on-surface': 'ink',
  primary: 'lime',
  'on-primary': 'lime-ink',
  ...Object.fromEntries(
    Object.entries({
      secondary: 'water7',
      info: 'water7',
      success: 'water7',
      warning: 'amber7',
      error: 'plum7',
    }).flatMap(([name, token]) => [
      [name, token],
      [`on-${name}`, 'on-water'],
    ]),
  ),
}

/** A theme of the colours that tokens.css says. */
function theme(dark: boolean): ThemeDefinition {
  const root = document.documentElement
  const before = root.className
  root.classList.toggle('dark', dark)
  const says = getComputedStyle(root)
  const colors = Object.fromEntries(
    Object.entries(tokens).map(([name, token]) => [name, says.getPropertyValue(`--${token}`).trim()]),
  )
  root.className = before
  return { dark, colors }
}

/** Fields name themselves above their line and say no more than what is wrong with them. */
const FIELD = { variant: 'plain', singleLine: true, hideDetails: true }
const BOX = 'svg:M2 2h20v20H2zM4.2 4.2v15.6h15.6V4.2z'

export const vuetify = createVuetify({
  theme: {
    defaultTheme: 'light',
    themes: { light: theme(false), dark: theme(true) },
  },
  defaults: {
    global: { elevation: 0, rounded: 0, ripple: false },
    ...Object.fromEntries(['VTextField', 'VTextarea'].map((field) => [field, FIELD])),
  },
  icons: {
    aliases: {
      checkboxOff: BOX,
      checkboxOn: `${BOX}M6 12l1.8-1.7 3.2 4 6-7.6 1.9 1.5-7.8 10z`,
    },
  },
})

interface Head {
  style: { textContent: string }[]
}

/** The theme's style goes through a constructed sheet: the page allows no inline style. */
export function installTheme(app: App): void {
  const sheet = new CSSStyleSheet()
  document.adoptedStyleSheets.push(sheet)
  const put = (head: () => Head) =>
    sheet.replaceSync(
      head()
        .style.map((style) => style.textContent)
        .join('\n'),
    )
  app.provide('usehead', {
    push: (head: () => Head) => {
      put(head)
      return { patch: put }
    },
  })
  app.use(vuetify)
}
