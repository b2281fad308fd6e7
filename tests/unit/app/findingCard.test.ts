// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import FindingCard from '../../../app/findings/FindingCard.vue'
import { fixesOf } from '../../../core/verdict/fixes'
import { judge } from '../../../core/verdict/verdict'
import { demoPlan } from '../../data/plans'

const { verdict, study } = judge(demoPlan('tern-rock-light'))
const [first, second] = verdict.findings
const fixes = fixesOf(first!, study, verdict)

describe('a finding on its card', () => {
  const card = (more: object = {}) =>
    mount(FindingCard, {
      props: { finding: first!, fixes, chosen: true, nameOf: (place: string) => `the ${place}`, ...more },
    })
  const buttons = (of: ReturnType<typeof card>) => of.findAll('.fix')

  it('offers its fixes, and tells the one that is taken', async () => {
    const shown = card()
    expect(buttons(shown).map(b => b.find('.label').text())).toEqual(fixes.map(f => f.label))
    await buttons(shown)[0]!.trigger('click')
    expect(shown.emitted('take')).toEqual([[fixes[0]]])
  })

  it('keeps those of the plan as it was in their place after an edit, and lets none be taken', async () => {
    const shown = card()
    await shown.setProps({ fixes: undefined })
    expect(buttons(shown)).toHaveLength(fixes.length)
    for (const button of buttons(shown)) expect(button.attributes('disabled')).toBeDefined()
    await buttons(shown)[0]!.trigger('click')
    expect(shown.emitted('take')).toBeUndefined()
    expect(shown.text()).not.toContain('working out')
    await shown.setProps({ fixes: fixes.slice(0, 1) })
    expect(buttons(shown).map(b => b.attributes('disabled'))).toEqual([undefined])
  })

  it('shows none of another finding meanwhile, and says that they are worked out, or that there are none', async () => {
    const shown = card()
    await shown.setProps({ finding: second!, fixes: undefined })
    expect(buttons(shown)).toEqual([])
    expect(shown.text()).toContain('working out what would mend it')
    await shown.setProps({ fixes: [] })
    expect(shown.text()).toContain('it wants a decision of yours')
  })

  it('names the places that its sentence does not, where it has many, and once they are opened', async () => {
    const withPlaces = (also: string[]) => card({ finding: { ...first!, place: 'a', also } })
    expect(withPlaces(['b', 'c', 'd', 'e', 'f']).find('details').exists()).toBe(false)
    const details = withPlaces(['b', 'c', 'd', 'e', 'f', 'g']).find('details')
    expect(details.find('summary').text()).toBe('Its 7 places, lit in the path')
    expect(details.text()).not.toContain('the g')
    ;(details.element as HTMLDetailsElement).open = true
    await details.trigger('toggle')
    expect(details.text()).toContain('the a; the b; the c; the d; the e; the f; the g')
  })
})
