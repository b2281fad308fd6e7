// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import Textarea from 'primevue/textarea'
import { describe, expect, it } from 'vitest'
import EditPanel from '../../../app/edit/EditPanel.vue'
import { applyEdit, type Patch } from '../../../core/edit/patch'
import { kindOf } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { METRIC, type Units } from '../../../core/units/quantity'
import { DEMOS, demoPlan } from '../../data/plans'

/** The form of a part or lead on a plan that takes its edits. */
function formOf(plan: Plan, id: string, units: Units = METRIC) {
  const made: { plan: Plan; patches: Patch[] } = { plan, patches: [] }
  const edit = (patch: Patch) => {
    const result = applyEdit(made.plan, patch)
    if (!result.ok) return result.faults
    made.plan = result.plan
    made.patches.push(patch)
    return []
  }
  const components = { Button, InputText, MultiSelect, Select, SelectButton, Textarea }
  const form = mount(EditPanel, { props: { plan, id, units, edit }, global: { plugins: [PrimeVue], components } })
  const type = async (label: string, text: string) => {
    const field = form.findAll('label.quantity').find(l => l.find('span').text() === label)
    if (!field) throw new Error(`no field ${label}: ${form.findAll('label.quantity span').map(s => s.text())}`)
    await field.find('input').setValue(text)
    await field.find('input').trigger('blur')
    return field
  }
  return { form, made, type }
}
const plan = demoPlan('tern-rock-light')
const leadOf = (p: Plan, id: string) => p.leads.find(l => l.id === id)!

describe('the form of a lead', () => {
  it('takes a length as people write it, in feet too', async () => {
    const { made, type } = formOf(plan, 'l2')
    await type('Length, one way', '4 ft')
    expect(leadOf(made.plan, 'l2').lengthM).toBeCloseTo(1.2192, 6)
  })
  it('keeps what was typed and says what is wrong where it cannot be read or taken', async () => {
    const { made, type } = formOf(plan, 'l2')
    const unread = await type('Length, one way', 'about three')
    expect(unread.find('[role="alert"]').text()).not.toBe('')
    expect((unread.find('input').element as HTMLInputElement).value).toBe('about three')
    const refused = await type('Length, one way', '-2 m')
    expect(refused.find('[role="alert"]').text()).not.toBe('')
    expect(made.plan).toBe(plan)
  })
  it('does nothing where nothing was changed', async () => {
    const { form, made } = formOf(plan, 'l2')
    for (const input of form.findAll('label.quantity input')) await input.trigger('blur')
    expect(made.patches).toEqual([])
  })
})

describe('the form of a part', () => {
  const parts = DEMOS.flatMap(demo => {
    const of = demoPlan(demo)
    return of.parts.map(p => [demo, p.kind, p.id, of] as const)
  })
  it.each(parts)('%s: %s %s shows every line of its kind that applies', (_demo, _kind, id, of) => {
    const part = of.parts.find(p => p.id === id)!
    const text = formOf(of, id).form.text()
    for (const line of kindOf(part).form) {
      if (line.when && !line.when(part as never)) continue
      expect(text).toContain(line.label)
    }
  })
  it('sets the field its line leads to, and that alone', async () => {
    const { made, type } = formOf(plan, 'bat')
    await type('Capacity', '123 Ah')
    const [before, after] = [plan, made.plan].map(p => p.parts.find(x => x.id === 'bat'))
    expect(after).toEqual({ ...before, capacityAh: 123 })
  })
})
