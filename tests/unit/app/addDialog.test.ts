// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { afterEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import AddDialog from '../../../app/edit/AddDialog.vue'
import type { Patch } from '../../../core/edit/patch'
import { METRIC } from '../../../core/units/quantity'
import { demoPlan } from '../../data/plans'

afterEach(() => (document.body.innerHTML = ''))

describe('what is added', () => {
  it('goes in by Enter at once, where the dialog was asked for before its program had come', async () => {
    const edits: Patch[] = []
    const dialog = mount(AddDialog, {
      attachTo: document.body,
      props: {
        visible: true,
        plan: demoPlan('tern-rock-light'),
        startAt: null,
        units: METRIC,
        edit: (patch: Patch) => (edits.push(patch), []),
      },
      global: { plugins: [PrimeVue], components: { Button, Dialog, InputText, Select } },
    })
    await nextTick()
    await nextTick()
    const search = document.querySelector<HTMLInputElement>('[role="combobox"].search')!
    search.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
    await nextTick()
    expect(document.querySelector('[role="alert"]')?.textContent ?? '').toBe('')
    const lead = edits[0]?.map(op => (op as { value?: { lengthM?: number } }).value).find(v => v?.lengthM)
    expect(lead?.lengthM).toBeCloseTo(1.5)
    dialog.unmount()
  })
})
