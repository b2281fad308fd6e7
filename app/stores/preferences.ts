import { defineStore } from 'pinia'
import { computed, reactive, ref, watch } from 'vue'
import type { Units } from '#core/units/quantity'

export interface Preferences {
  units: Units
  theme: 'light' | 'dark' | 'system'
  /** Schools a new station starts with. */
  ampacity: 'open' | 'enclosed'
  fuseDistance: 'strict' | 'sheathed'
  paper: 'A4' | 'Letter'
  lastStation: string
  /** Has been told that the demo is made up, and how to begin one's own. */
  knowsDemo: boolean
}

const KEY = 'wireman-preferences'
const DEFAULTS: Preferences = {
  units: { length: 'm', conductor: 'awg', temperature: 'C' },
  theme: 'system',
  ampacity: 'open',
  fuseDistance: 'strict',
  paper: 'A4',
  lastStation: '',
  knowsDemo: false,
}

function stored(): Preferences {
  try {
    const said = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Preferences>
    return { ...DEFAULTS, ...said, units: { ...DEFAULTS.units, ...said.units } }
  } catch {
    return structuredClone(DEFAULTS)
  }
}

/** What the user chose for every station, kept in this browser. */
export const usePreferences = defineStore('preferences', () => {
  const chosen = reactive(stored())
  const system = matchMedia('(prefers-color-scheme: dark)')
  const isSystemDark = ref(system.matches)
  system.addEventListener('change', () => (isSystemDark.value = system.matches))
  const isDark = computed(() => chosen.theme === 'dark' || (chosen.theme === 'system' && isSystemDark.value))
  // At once: what is drawn from the colours reads them when it hears of the change.
  watch(isDark, is => document.documentElement.classList.toggle('dark', is), { immediate: true, flush: 'sync' })
  watch(chosen, () => localStorage.setItem(KEY, JSON.stringify(chosen)), { deep: true })
  return { chosen, isDark }
})
