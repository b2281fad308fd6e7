import { computed, ref, watch, type Ref } from 'vue'
import type { Finding, Verdict } from '#core/verdict/verdict'

/** The finding that is looked at: the worst until the user chooses; one that is gone gives way to the next. */
export function useFindings(verdict: Readonly<Ref<Verdict | null>>, look: (finding: Finding) => void) {
  const chosen = ref<string | null>(null)
  const finding = computed(() => verdict.value?.findings.find(f => f.key === chosen.value) ?? null)
  /** Its places in the path. */
  const lit = computed(() => new Set(finding.value ? [finding.value.place, ...(finding.value.also ?? [])] : []))
  watch(verdict, now => {
    if (!now) return
    if (!now.findings.some(f => f.key === chosen.value)) chosen.value = now.findings[0]?.key ?? null
  })
  function step(by: 1 | -1) {
    const keys = verdict.value?.findings.map(f => f.key) ?? []
    if (!keys.length) return
    chosen.value = keys[(keys.indexOf(chosen.value ?? '') + by + keys.length) % keys.length]!
    if (finding.value) look(finding.value)
  }
  return { chosen, finding, lit, step }
}
