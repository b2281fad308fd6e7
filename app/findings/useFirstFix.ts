import { ref, watch, type Ref } from 'vue'
import type { Fix } from '#core/verdict/fixes'
import type { Finding } from '#core/verdict/verdict'

export interface FirstFixOptions {
  /** The finding that is looked at. */
  finding: Readonly<Ref<Finding | null>>
  /** Fixes of the plan as it is, as far as they are worked out. */
  fixes: () => ReadonlyMap<string, Fix[]>
  take: (of: Finding, fix: Fix) => void
}

/**
 * Takes the first fix of the finding that is looked at: at once, or as soon as it is worked out where it is looked at
 * still.
 * @returns what takes it
 */
export function useFirstFix({ finding, fixes, take }: FirstFixOptions): () => void {
  const wanted = ref<string | null>(null)
  const now = () => finding.value && fixes().get(finding.value.key)

  function takeFirst() {
    const worked = now()
    wanted.value = worked ? null : (finding.value?.key ?? null)
    if (worked?.[0]) take(finding.value!, worked[0])
  }
  watch([() => finding.value?.key, fixes], ([key]) => {
    if (key !== wanted.value) wanted.value = null
    else if (key !== undefined && now()) takeFirst()
  })
  return takeFirst
}
