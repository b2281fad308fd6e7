/** Every colour of Wireman, light and dark: pages, component library and exported pictures take them from here. */

export const LIGHT = {
  paper: '#f6f4ee',
  sheet: '#fdfcf9',
  ink: '#1c2427',
  'ink-2': '#4c5557',
  'ink-3': '#656d6d',
  line: '#dcd8cc',
  'line-2': '#c4bfb0',
  copper: '#a9571f',
  'copper-faint': '#d8a983',
  window: '#d5e5da',
  'window-edge': '#1e6b50',
  pass: '#1e6b50',
  danger: '#96134f',
  fail: '#a8390b',
  caution: '#7d5f00',
  note: '#2c5f80',
  lit: '#fff4d6',
  button: '#1f292d',
  'button-ink': '#ffffff',
  choice: '#ece9df',
  plus: '#b3161e',
  focus: '#1f5fae',
  shade: 'rgb(28 36 39 / 8%)',
  print: '#ffffff',
} as const

export type ColourName = keyof typeof LIGHT

export const DARK: Readonly<Record<ColourName, string>> = {
  paper: '#14181a',
  sheet: '#1b2022',
  ink: '#ece9e0',
  'ink-2': '#b9bbb5',
  'ink-3': '#979b97',
  line: '#2f3638',
  'line-2': '#475052',
  copper: '#dd8f55',
  'copper-faint': '#7a573d',
  window: '#21382f',
  'window-edge': '#6cc3a0',
  pass: '#6cc3a0',
  danger: '#f77fb4',
  fail: '#ff9466',
  caution: '#e3bd4f',
  note: '#86bfe6',
  lit: '#3a3320',
  button: '#e9e5da',
  'button-ink': '#14181a',
  choice: '#2a3032',
  plus: '#ff7b7b',
  focus: '#8ec2ff',
  shade: 'rgb(0 0 0 / 35%)',
  print: '#ffffff',
}

const variables = (colours: Readonly<Record<ColourName, string>>) =>
  Object.entries(colours)
    .map(([name, colour]) => `--${name}: ${colour};`)
    .join(' ')

/** The colours as CSS variables, for a page. */
export const COLOURS_CSS = [
  `:root { ${variables(LIGHT)} color-scheme: light; }`,
  `.dark { ${variables(DARK)} color-scheme: dark; }`,
].join('\n')

/** CSS with the light theme's colours in it: an exported picture stands by itself and is printed. */
export const inLight = (css: string): string =>
  css.replace(/var\(--([a-z0-9-]+)\)/g, (_, name: string) => {
    const colour = LIGHT[name as ColourName]
    if (!colour) throw new Error(`the palette has no colour ${name}`)
    return colour
  })
