<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { BANDS, middleHz } from '#core/catalog/bands'
import type { Logbook } from '#core/noise/logbook'
import { dbmToS } from '#core/noise/level'
import type { Plan } from '#core/plan/schema'
import { readRadioFrequency } from '#core/units/quantity'
import { asGiven, fixed } from '#core/units/number'
import type { LiveFrame } from '../workers/live'
import AbTable from './AbTable.vue'
import { heat } from './heat'
import { khz } from './khz'
import LineTrack from './LineTrack.vue'
import { useLive } from './useLive'

/** The radio's own sound: its waterfall and level, combs as they come, and on against off by two buttons. */
const props = defineProps<{ plan: Plan; logbook: Logbook }>()
const emit = defineEmits<{ tool: [id: 'case' | 'survey'] }>()

const canvas = ref<HTMLCanvasElement>()
const ROWS = 150
function paint({ row, lowHz, highHz }: LiveFrame) {
  span.value = { lowHz, highHz }
  const el = canvas.value
  if (!el) return
  if (el.width !== row.length) {
    el.width = row.length
    el.height = ROWS
  }
  const ctx = el.getContext('2d', { willReadFrequently: true })!
  ctx.drawImage(el, 0, 0, row.length, ROWS - 1, 0, 1, row.length, ROWS - 1)
  const image = ctx.createImageData(row.length, 1)
  row.forEach((v, i) => image.data.set(heat(v), 4 * i))
  ctx.putImageData(image, 0, 0)
}
const span = ref<{ lowHz: number; highHz: number } | null>(null)
const { live, recorder, listen, simulate: simulateOn, stop, switchTo, forget, setLevel } = useLive(paint)
const { isRecording } = recorder

// Where it listens.
const SOURCES = [
  { id: 'audio', label: 'Audio' },
  { id: 'iq', label: 'I/Q' },
]
const source = ref<'audio' | 'iq'>('audio')
const centre = ref('')
const centreHz = computed(() => {
  const read = readRadioFrequency(centre.value)
  return centre.value.trim() && read.ok ? read.value : null
})
function simulate() {
  const [id] = props.plan.site?.bands ?? []
  const band = BANDS.find(b => b.id === id) ?? BANDS.find(b => b.id === '20 m')!
  simulateOn(props.plan, [band.id], middleHz(band))
}

// Its level in a bandwidth around a frequency, against what is known to be there.
const around = ref('')
const widthHz = ref(2700)
const WIDTHS = [
  { id: 500, label: '500 Hz' },
  { id: 2700, label: '2.7 kHz' },
  { id: 9000, label: '9 kHz' },
]
const VOICE_HZ = 1500
const aroundHz = computed(() => {
  const read = readRadioFrequency(around.value)
  if (around.value.trim() && read.ok) return read.value
  if (!span.value) return 0
  // Of audio it is what a voice channel holds.
  return span.value.lowHz === 0 ? VOICE_HZ : (span.value.lowHz + span.value.highHz) / 2
})
watch([aroundHz, widthHz, () => live.isOn], () => setLevel(aroundHz.value, widthHz.value))
const offsetDb = ref<number | null>(null)
const isDbm = ref<number | null>(null)
function calibrate() {
  if (isDbm.value === null || live.levelDb === null) return
  offsetDb.value = isDbm.value - live.levelDb
}
const levelWords = computed(() => {
  if (live.levelDb === null) return '–'
  if (offsetDb.value === null) return `${fixed(live.levelDb, 1)} dB`
  const dbm = live.levelDb + offsetDb.value
  const hz = aroundHz.value > 1e5 ? aroundHz.value : 14e6
  return `${fixed(dbm, 1)} dBm, ${dbmToS(dbm, hz)}`
})

const ticks = computed(() => {
  if (!span.value) return []
  const { lowHz, highHz } = span.value
  return [0, 0.25, 0.5, 0.75, 1].map(s => `${khz(lowHz + s * (highHz - lowHz), highHz - lowHz > 2e4 ? 0 : 1)}`)
})
const combWords = computed(() =>
  (live.combs?.combs ?? []).map(c => {
    const ripple = c.rippleHz ? `, ripple ${asGiven(c.rippleHz)} Hz` : ''
    return `${khz(c.spacingHz, 3)} kHz ± ${fixed(c.uncertaintyHz, 1)} Hz, ${c.lines.length} lines${ripple}`
  }),
)
const SWITCHES = [
  { id: 'on', label: 'On' },
  { id: 'off', label: 'Off' },
] as const
</script>

<template>
  <div class="live">
    <section class="in">
      <template v-if="!live.isOn">
        <p class="quiet">
          Lead the receiver's audio, or the two channels of an I/Q output, into this computer. Nothing is sent anywhere.
        </p>
        <SelectButton
          v-model="source"
          :options="SOURCES"
          option-label="label"
          option-value="id"
          :allow-empty="false"
          size="small"
          aria-label="What comes in" />
        <label v-if="source === 'iq'" class="line"
          >around <InputText v-model="centre" size="small" placeholder="14.1 MHz" aria-label="Centre frequency"
        /></label>
        <Button label="Listen" data-testid="listen-live" @click="listen(source === 'iq', centreHz)" />
        <button class="plain" @click="simulate">Listen to a simulated evening</button>
      </template>
      <template v-else>
        <p>
          <b>{{ live.isOn === 'simulated' ? 'A simulated evening' : 'Listening' }}</b>{{ ' ' }}
          <span class="quiet">{{ Math.floor(live.seconds) }} s</span>
        </p>
        <Button label="Stop" size="small" severity="secondary" @click="stop()" />
        <button v-if="live.isOn === 'input'" class="plain" data-testid="record" @click="recorder.toggle()">
          {{ isRecording ? 'End the recording and keep it' : 'Record to a WAV file' }}
        </button>
        <div class="level">
          <span class="quiet">Level</span><b data-testid="level">{{ levelWords }}</b>
          <label class="line"
            >in
            <Select
              v-model="widthHz"
              :options="WIDTHS"
              option-label="label"
              option-value="id"
              size="small"
              aria-label="Bandwidth" />
            around <InputText v-model="around" size="small" placeholder="the middle" aria-label="Level around"
          /></label>
          <label class="line"
            >that is
            <InputNumber v-model="isDbm" size="small" :min="-180" :max="20" aria-label="Known level, dBm" /> dBm
            <button class="plain" :disabled="isDbm === null" @click="calibrate">Calibrate</button></label
          >
        </div>
      </template>
      <p v-if="live.problem" class="wrong" role="alert">{{ live.problem }}</p>
    </section>

    <section class="heard">
      <div v-if="live.isOn" class="fall">
        <canvas ref="canvas" aria-label="Waterfall" />
        <p class="axis">
          <span v-for="t in ticks" :key="t">{{ t }}</span><em>kHz</em>
        </p>
      </div>
      <template v-if="live.isOn">
        <div class="ab" role="group" aria-label="On against off">
          <button
            v-for="s in SWITCHES"
            :key="s.id"
            class="switch"
            :class="{ now: live.switched === s.id }"
            :aria-pressed="live.switched === s.id"
            @click="switchTo(s.id)">
            {{ s.label }}
          </button>
          <button class="plain" :disabled="!live.switched" @click="switchTo(null)">Neither</button>
          <button v-if="live.compared" class="plain" @click="forget()">Begin anew</button>
          <span class="quiet">Press as you switch it, to and fro; a second or more each.</span>
        </div>
        <AbTable
          v-if="live.compared"
          :compared="live.compared"
          :plan="plan"
          :logbook="logbook"
          :calibration="{ offsetDb, widthHz }"
          @tool="t => emit('tool', t)" />
        <p v-if="combWords.length" class="combs">
          <b>{{ combWords.length === 1 ? 'A comb' : `${combWords.length} combs` }}</b> {{ combWords.join('; ') }}
        </p>
        <LineTrack :comb="live.combs?.combs[0]" :seconds="live.seconds" />
        <p v-if="live.combs?.mains" class="combs"><b>Mains buzz</b> of {{ asGiven(live.combs.mains.mainsHz) }} Hz</p>
      </template>
      <div v-else class="none">
        <h2>Listen to the radio itself</h2>
        <p>
          See its waterfall, its level and its combs as they come. Press On and Off while somebody switches the suspect:
          after three or four times each way it is plain whether it was chance, and by how many dB. That is evidence for
          a case, and the before and after of a cure.
        </p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.live {
  display: grid;
  grid-template-columns: 17rem minmax(0, 1fr);
  gap: 1.6rem;
}
.in {
  display: grid;
  gap: 0.7rem;
  align-content: start;
  justify-items: start;
}
.line {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-2);
}
.line :deep(input) {
  width: 6.5rem;
}
.level {
  display: grid;
  gap: 0.4rem;
}
.level b {
  font-size: 1.35rem;
  font-variant-numeric: tabular-nums;
}
canvas {
  width: 100%;
  height: 210px;
  border-radius: 8px;
  background: #14181a;
  display: block;
}
.axis {
  display: flex;
  justify-content: space-between;
  color: var(--ink-3);
  font-size: 0.82rem;
  font-variant-numeric: tabular-nums;
}
.ab {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 0.8rem;
}
.switch {
  min-width: 6.5rem;
  min-height: 3rem;
  font-size: 1.15rem;
  font-weight: 600;
  border: 1.5px solid var(--line-2);
  border-radius: 8px;
  background: var(--sheet);
  cursor: pointer;
}
.switch.now {
  border-color: var(--copper);
  background: var(--lit);
}
.combs {
  margin-top: 0.6rem;
  color: var(--ink-2);
}
.wrong {
  color: var(--fail);
}
.quiet,
em {
  color: var(--ink-3);
  font-style: normal;
}
.none {
  max-width: 34rem;
}
.none p {
  margin-top: 0.4rem;
  color: var(--ink-2);
}
h2 {
  font-size: 1.15rem;
}
@media (max-width: 760px) {
  .live {
    grid-template-columns: 1fr;
    gap: 1rem;
  }
  canvas {
    height: 150px;
  }
}
</style>
