<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed } from 'vue'
import { WAYS } from '#core/noise/cause'
import { writeCase, type NoiseCase } from '#core/noise/logbook'
import { reportText, type CaseReport } from '#core/noise/report'
import type { Plan } from '#core/plan/schema'
import { download } from '../shell/download'
import { usePdf } from '../shell/usePdf'
import { usePreferences } from '../stores/preferences'

/** The report as PDF, print, text and file; and what becomes of the case. */
const props = defineProps<{ plan: Plan; noiseCase: NoiseCase; report: CaseReport }>()
const emit = defineEmits<{ change: [next: NoiseCase]; edit: []; split: []; remove: [] }>()
const toast = useToast()
const toPdf = usePdf()
const { chosen } = usePreferences()

const fileName = () =>
  props.noiseCase.title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || 'case'
async function pdf() {
  const { casePdf } = await import('#core/formats/pdf/noiseCase')
  const paper = chosen.paper === 'A4' ? 'a4' : 'letter'
  await toPdf(`${fileName()}.pdf`, loadFace => casePdf(props, { paper, loadFace }))
}
const json = () => download(`${fileName()}.json`, writeCase(props.noiseCase), 'application/json')
async function copyText() {
  const text = reportText(props.plan, props.noiseCase, props.report)
  try {
    await navigator.clipboard.writeText(text)
    toast.add({
      severity: 'secondary',
      summary: 'The report is on the clipboard',
      detail: 'as plain text, for a list or a letter',
      life: 2500,
    })
  } catch {
    download(`${fileName()}.txt`, text, 'text/plain')
  }
}
const print = () => window.print()

const setState = (state: NoiseCase['state']) => emit('change', { ...props.noiseCase, state })
const named = computed(() => {
  const said = props.noiseCase.practice?.named
  return (
    said &&
    `${props.report.reasoned.causes.devices.find(d => d.id === said.device)?.name ?? said.device} ` +
      `${WAYS.find(w => w.id === said.way)?.label ?? ''}`
  )
})
</script>

<template>
  <section class="out">
    <Button label="Report as PDF" size="small" severity="secondary" @click="pdf" />
    <button class="plain" @click="print">Print</button><button class="plain" @click="copyText">Copy as text</button
    ><button class="plain" @click="json">JSON</button>
    <button class="plain" @click="emit('edit')">Edit complaint</button>
    <button v-if="noiseCase.state === 'open'" class="plain" @click="setState('cured')">It is cured</button
    ><button v-else class="plain" @click="setState('open')">Open it again</button>
    <button v-if="noiseCase.complaint.bands.length > 1 && !noiseCase.practice" class="plain" @click="emit('split')">
      A case for each band
    </button>
    <button class="plain" @click="emit('remove')">Remove</button>
    <p v-if="named" class="quiet">You named: {{ named }}</p>
  </section>
</template>

<style scoped>
.out {
  display: flex;
  flex-wrap: wrap;
  gap: 0.15rem;
  align-items: center;
}
.quiet {
  color: var(--ink-3);
}
@media print {
  .out {
    display: none;
  }
}
</style>
