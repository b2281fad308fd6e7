import { computed, type WritableComputedRef } from 'vue'

/**
 * A choice that stands in the address, so that a link shows what one saw.
 * @param key its name in the query
 * @param unsaid what it is where the address says nothing; it is then left out
 * @param isKnown what the address may say: anything else counts as nothing
 */
export function useInAddress<T extends string>(
  key: string,
  unsaid: T,
  isKnown: (value: string) => boolean = () => true,
): WritableComputedRef<T> {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => {
      const said = route.query[key]
      return typeof said === 'string' && isKnown(said) ? (said as T) : unsaid
    },
    set: value => {
      const { [key]: _before, ...others } = route.query
      void router.replace({ query: value === unsaid ? others : { ...others, [key]: value } })
    },
  })
}
