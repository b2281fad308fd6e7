import { describe, expect, it } from 'vitest'
import { outcomeOf, type CellResult } from '../../../core/noise/survey/surveyResults'

describe('what a device does, as an ear would say it', () => {
  const cell = (costDb: number, isSure: boolean): CellResult => ({
    row: 'r',
    column: '20 m',
    onDbm: costDb - 100,
    offDbm: -100,
    costDb,
    errorDb: 1,
    isSure,
    addedDbm: null,
    uncertaintyDb: 1,
    atMostDbm: -100,
  })
  // Six decibels, one and a half times the least rise, on the band where it is most.
  it.each([
    ['same', [cell(7, true), cell(4.5, true)]],
    ['same', [cell(6, true)]],
    ['weaker', [cell(5.9, true), cell(4.5, true)]],
    ['gone', [cell(1.3, false), cell(-1, false)]],
    ['not-sure', [cell(1.4, false), cell(0, false)]],
    ['gone', []],
  ] as const)('%s', (outcome, cells) => expect(outcomeOf(cells)).toBe(outcome))
})
