/** The look: paper and ink, pine for action, brass for what is being moved, brick for trouble. */
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import 'vuetify/styles'

const paper = {
  ground: '#f6f2e8', sheet: '#fcfaf4', ink: '#1c2a2b', second: '#56625f', hairline: '#dcd5c3',
  pine: '#1b5a4f', 'on-pine': '#fcfaf4', brass: '#8a5d0d', 'on-brass': '#fcfaf4', brick: '#a03a28', tint: '#efe2c2',
}
const night = {
  ground: '#161d1d', sheet: '#1c2525', ink: '#ece6d6', second: '#a3aca5', hairline: '#364141',
  pine: '#86c3b2', 'on-pine': '#10201d', brass: '#e0b35a', 'on-brass': '#20180a', brick: '#ef9a86', tint: '#3a321f',
}

function vuetifyTheme(colours: typeof paper, dark: boolean) {
  return {
    dark,
    colors: {
      ...colours,
      background: colours.ground, surface: colours.sheet, primary: colours.pine, 'on-primary': colours['on-pine'],
      secondary: colours.brass, error: colours.brick, 'on-background': colours.ink, 'on-surface': colours.ink,
    },
    variables: { 'border-color': colours.ink, 'border-opacity': 0.16, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.82 },
  }
}

export const THEMES = ['paper', 'night'] as const
const REMEMBERED = 'dime-gate.theme'

function startingTheme(): string {
  const remembered = localStorage.getItem(REMEMBERED)
  if (THEMES.some((name) => name === remembered)) return remembered!
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'paper'
}

export function rememberTheme(name: string): void {
  localStorage.setItem(REMEMBERED, name)
}

/** Sheets of styles that are written as the page runs are let in by its content policy with this alone. */
export function nonce(): string {
  return document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce ?? ''
}

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  theme: { cspNonce: nonce(), defaultTheme: startingTheme(), themes: { paper: vuetifyTheme(paper, false), night: vuetifyTheme(night, true) } },
  defaults: {
    VBtn: { variant: 'outlined', rounded: 'sm', ripple: false },
    VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
    VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto', menuProps: { rounded: 'sm' } },
    VAutocomplete: { noDataText: 'Nothing here is called so.' },
    VCheckbox: { density: 'compact', hideDetails: true },
    VDialog: { scrollable: true },
  },
})
