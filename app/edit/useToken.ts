import { computed, shallowRef, type Ref } from 'vue'
import { conductorName } from '#core/conductor/resistance'
import { setItem, setLength } from '#core/edit/items'
import type { Patch } from '#core/edit/patch'
import { setField } from '#core/edit/set'
import { leadById } from '#core/plan/find'
import { readConductor } from '#core/units/conductor'
import { readQuantity, showLength, type Units } from '#core/units/quantity'
import type { useStation } from '../stores/station'
import { asGiven } from '#core/units/number'

/** One figure of a lead, edited where it stands in the picture. */
export interface TokenTarget {
  id: string
  what: 'conductor' | 'length' | 'rating'
  itemId?: string
  x: number
  y: number
}

/** The figure that is being edited, its text, and what takes the new one: null when taken, else why not. */
export function useToken(station: ReturnType<typeof useStation>, units: Readonly<Ref<Units>>) {
  const token = shallowRef<TokenTarget | null>(null)
  const lead = computed(() => token.value && station.plan && leadById(station.plan, token.value.id))

  const tokenText = computed(() => {
    if (!lead.value || !token.value) return ''
    if (token.value.what === 'conductor') return conductorName(lead.value.conductor)
    if (token.value.what === 'length') return showLength(lead.value.lengthM, units.value)
    const item = lead.value.inline?.find(i => i.id === token.value!.itemId)
    const ratedA = item && 'ratedA' in item ? item.ratedA : undefined
    return ratedA === undefined ? '' : `${asGiven(ratedA)} A`
  })

  function said(patch: Patch, label: string): string | null {
    const [fault] = station.edit(patch, `${label} ${lead.value!.name ?? lead.value!.id}`)
    return fault ? `${fault.wrong}; right would be ${fault.right}` : null
  }
  function commitConductor(text: string): string | null {
    const read = readConductor(text, units.value)
    if (!read.ok) return read.wrong
    const { insulationC, material } = lead.value!.conductor
    const kept = { ...(insulationC !== undefined && { insulationC }), ...(material && { material }) }
    return said(setField(station.plan!, lead.value!.id, 'conductor', { ...read.value, ...kept }), 'conductor of')
  }
  function commitToken(text: string): string | null {
    // Closing takes the focus away, which is no entry.
    if (!token.value || !lead.value) return null
    const { what, itemId } = token.value
    if (what === 'conductor') return commitConductor(text)
    const read = readQuantity(text, what === 'length' ? 'length' : 'current', units.value)
    if (!read.ok) return read.wrong
    if (what === 'length') return said(setLength(station.plan!, lead.value!, read.value), 'length of')
    const patch = setItem(station.plan!, lead.value!.id, itemId!, { ratedA: read.value })
    return said(patch, 'rating of the fuse in')
  }
  return { token, tokenText, commitToken }
}
