import { onBeforeUnmount, ref, watch, type Ref } from 'vue'

/** Width of an element, followed as it changes, px. */
export function useElementSize(element: Ref<HTMLElement | undefined>) {
  const width = ref(0)
  const observer = new ResizeObserver(([entry]) => {
    if (entry) width.value = Math.floor(entry.contentRect.width)
  })
  watch(
    element,
    (now, before) => {
      if (before) observer.unobserve(before)
      if (now) observer.observe(now)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => observer.disconnect())
  return { width }
}
