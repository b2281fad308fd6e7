import { findCombs } from '../../core/noise/comb/find'
import type { CombResult } from '../../core/noise/comb/comb'
import { hearSpectrum } from '../../core/noise/listen/listen'
import { combCorpus, type Sample } from './combCorpus'

/** A claim is right where a spacing that is there lies within four of its own uncertainties, and one of its lines. */
const UNCERTAINTIES = 4
const OWN_SHARE = 3e-4

export interface Claim {
  recipe: string
  spacingHz: number
  confidence: number
  right: boolean
}

export interface RecipeScore {
  recipe: string
  there: number
  found: number
  claims: number
  wrong: number
}

export const BINS = [0.5, 0.9, 0.97, 0.99, 0.999, 1] as const

export const hear = (sample: Sample): CombResult =>
  sample.bins ? hearSpectrum(sample.bins) : findCombs(sample.tones!, sample.resolutionHz)

/** What is claimed of a corpus, and what of it is right. */
export function combScores(each: number, seed = 1): { claims: Claim[]; recipes: RecipeScore[]; mains: number[] } {
  const claims: Claim[] = []
  const recipes = new Map<string, RecipeScore>()
  const mains = [0, 0]
  for (const sample of combCorpus(each, seed)) {
    const heard = hear(sample)
    const score = recipes.get(sample.recipe) ?? { recipe: sample.recipe, there: 0, found: 0, claims: 0, wrong: 0 }
    recipes.set(sample.recipe, score)
    const left = [...sample.spacings]
    score.there += left.length
    for (const { spacingHz, uncertaintyHz, confidence } of heard.combs) {
      const near = (hz: number) => Math.abs(spacingHz - hz) <= UNCERTAINTIES * uncertaintyHz + OWN_SHARE * hz
      const at = left.findIndex(near)
      if (at >= 0) left.splice(at, 1)
      claims.push({ recipe: sample.recipe, spacingHz, confidence, right: at >= 0 })
      score.claims++
      if (at < 0) score.wrong++
      else score.found++
    }
    if (sample.mainsHz) mains[heard.mains?.mainsHz === sample.mainsHz ? 0 : 1]!++
  }
  return { claims, recipes: [...recipes.values()], mains }
}

/** Of claims in each bin of confidence, how many were right. */
export const reliability = (claims: readonly Claim[]) =>
  BINS.slice(1).map((high, i) => {
    const low = BINS[i]!
    const here = claims.filter(c => c.confidence >= low && (c.confidence < high || high === 1))
    return { low, high, claims: here.length, right: here.filter(c => c.right).length }
  })
