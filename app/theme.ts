import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'
import { DARK, LIGHT } from '../core/picture/scene/palette'

/** The components of the library that stand in views. */
export const COMPONENTS = [
  'Button',
  'InputText',
  'Select',
  'MultiSelect',
  'SelectButton',
  'InputNumber',
  'Textarea',
  'Toast',
] as const
/** What they are themselves made of, and the dialog that ours extends (shell/focusedDialog). */
const PARTS = [
  'Badge',
  'Checkbox',
  'Chip',
  'Dialog',
  'IconField',
  'Ripple',
  'ToggleButton',
  'Tooltip',
  'VirtualScroller',
] as const

const all = Aura.components!
/** Every page carries the theme: what no view shows is two thirds of it. */
const components = Object.fromEntries(
  [...COMPONENTS, ...PARTS].map(name => {
    const id = name.toLowerCase() as keyof typeof all
    return [id, all[id]]
  }),
) as typeof all
const used = { ...Aura, components }

/** The component library's tokens, set to Wireman's own paper, ink and copper; its greys are steps between them. */
export const benchTheme = definePreset(used, {
  semantic: {
    primary: {
      50: '#f4f5f5',
      100: '#e1e4e5',
      200: '#c3c9cb',
      300: '#9ba5a9',
      400: '#6d7a7f',
      500: LIGHT.button,
      600: '#1a2327',
      700: '#151c1f',
      800: '#101618',
      900: '#0b0f11',
      950: '#060809',
    },
    borderRadius: { xs: '3px', sm: '4px', md: '6px', lg: '8px', xl: '10px' },
    colorScheme: {
      light: {
        surface: {
          0: '#ffffff',
          50: '#fbfaf6',
          100: '#f5f3ec',
          200: '#e7e3d8',
          300: '#d3cebf',
          400: '#a9a595',
          500: '#69675d',
          600: '#55544c',
          700: '#43443f',
          800: '#2b2e2c',
          900: '#1c2022',
          950: '#111415',
        },
        primary: {
          color: '{primary.500}',
          contrastColor: LIGHT['button-ink'],
          hoverColor: '{primary.400}',
          activeColor: '{primary.600}',
        },
      },
      dark: {
        surface: {
          0: '#ffffff',
          50: '#f2f0ea',
          100: '#dedbd2',
          200: '#bdbab1',
          300: '#97968f',
          400: '#8b8d88',
          500: '#4e524f',
          600: '#3a3f3e',
          700: '#2b3031',
          800: '#202526',
          900: '#181c1e',
          950: '#101314',
        },
        primary: { color: DARK.button, contrastColor: '#181c1e', hoverColor: '#ffffff', activeColor: '#d6d2c6' },
      },
    },
  },
})
