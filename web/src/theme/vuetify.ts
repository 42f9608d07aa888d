import type { App } from 'vue'
import 'vuetify/styles/core'
import { createVuetify, type ThemeDefinition } from 'vuetify'

// All of Vuetify's own colour names are set, or its defaults would show through.
function theme(
  dark: boolean,
  c: Record<'sheet' | 'ink' | 'lime' | 'water' | 'amber' | 'plum' | 'on', string>,
): ThemeDefinition {
  const roles = {
    primary: c.lime,
    secondary: c.water,
    info: c.water,
    success: c.water,
    warning: c.amber,
    error: c.plum,
  }
  return {
    dark,
    colors: {
      background: c.sheet,
      surface: c.sheet,
      'on-background': c.ink,
      'on-surface': c.ink,
      ...roles,
      'on-primary': '#0E2520',
      'on-secondary': c.on,
      'on-info': c.on,
      'on-success': c.on,
      'on-warning': c.on,
      'on-error': c.on,
    },
  }
}

/** Fields name themselves above their line and say no more than what is wrong with them. */
const FIELD = { variant: 'plain', singleLine: true, hideDetails: true }
const BOX = 'svg:M2 2h20v20H2zM4.2 4.2v15.6h15.6V4.2z'

export const vuetify = createVuetify({
  theme: {
    defaultTheme: 'light',
    themes: {
      light: theme(false, {
        sheet: '#F5F8F3',
        ink: '#0E2520',
        lime: '#D2E335',
        water: '#006670',
        amber: '#834400',
        plum: '#78133F',
        on: '#F5F8F3',
      }),
      dark: theme(true, {
        sheet: '#0C1D19',
        ink: '#E9F2EB',
        lime: '#D9EA45',
        water: '#5FC3C9',
        amber: '#F6BE68',
        plum: '#F5A3C4',
        on: '#06120F',
      }),
    },
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
