<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { renderSVG } from 'uqr'
import OuterBar from '../shell/OuterBar.vue'
import { lanApi } from '../stores/stationsApi'
import { useDevices } from './useDevices'

/** Using the station on a phone: letting one in by a code, and taking it out again. */
const { told, invitation, secondsLeft, letIn, wrong, invite, turn, revoke } = useDevices()
/** The name of this very device; empty: the station's own machine. */
const own = ref('')
onMounted(async () => (own.value = (await lanApi.me().catch(() => ({ device: '' }))).device))

/** Of several nets the first is in the square; the others are told. */
const square = computed(() =>
  invitation.value
    ? `data:image/svg+xml,${encodeURIComponent(renderSVG(invitation.value.urls[0]!, { border: 2 }))}`
    : '',
)
const spelled = computed(() => invitation.value?.code.replace(/(.{4})(?=.)/, '$1-') ?? '')
const left = computed(() => `${Math.floor(secondsLeft.value / 60)}:${String(secondsLeft.value % 60).padStart(2, '0')}`)
const pages = computed(() => invitation.value?.urls.map(url => url.split('#')[0]!) ?? [])
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page">
    <OuterBar />
    <main v-if="own">
      <h1>On a phone</h1>
      <p>
        This device is let in as <b>{{ own }}</b>. Others are let in, and taken out, at the station’s own machine.
      </p>
    </main>
    <main v-else>
      <div class="heading">
        <h1>On a phone</h1>
        <Button v-if="told?.on" label="Stop letting phones in" severity="secondary" @click="turn(false)" />
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-if="told?.trouble" class="wrong" role="alert">{{ told.trouble }}</p>
      <template v-if="told && !told.on">
        <p class="lead">
          A phone or tablet on the same net opens everything that stands here, and goes on where the net does not reach:
          what is entered there comes back here. Nothing goes to anybody else.
        </p>
        <p class="quiet">Now only this machine is answered.</p>
        <Button label="Let phones in" @click="turn(true)" />
      </template>
      <template v-else-if="told">
        <section v-if="invitation" class="invite" aria-label="Code">
          <img :src="square" alt="Square for the phone’s camera" />
          <div>
            <p class="code" data-testid="code">{{ spelled }}</p>
            <p class="quiet">Holds once, for {{ left }} more.</p>
            <ol>
              <li>
                Point the phone’s camera at the square, or open <b v-for="p in pages" :key="p">{{ p }} </b>
              </li>
              <li>
                The phone warns that it does not know this machine: the certificate was made here. Go on, and press “Let
                it in”.
              </li>
              <li>
                To use it without the net, install the certificate that the phone’s page offers, then put Wireman on its
                home screen.
              </li>
            </ol>
          </div>
        </section>
        <section v-else>
          <p v-if="letIn" class="done" role="status">
            <b>{{ letIn }}</b> is let in.
          </p>
          <Button
            :label="told.devices.length ? 'Let another in' : 'Show a code'"
            :disabled="!told.urls.length"
            @click="invite" />
        </section>
        <p class="caution">Whoever is let in can change everything here. Take a phone that was lost out of the list.</p>
      </template>
      <section v-if="told?.devices.length" aria-label="Devices">
        <h2>Let in</h2>
        <ul>
          <li v-for="d in told.devices" :key="d.id">
            <b>{{ d.name }}</b>
            <span class="quiet">since {{ when(d.pairedAt) }}, last seen {{ when(d.seenAt) }}</span>
            <button class="plain" :aria-label="`Take ${d.name} out`" @click="revoke(d.id)">Take out</button>
          </li>
        </ul>
        <p class="quiet">One that nobody uses for 30 days is taken out by itself.</p>
      </section>
    </main>
  </div>
</template>

<style scoped>
.page {
  min-height: 100%;
}
main {
  max-width: 54rem;
  margin: 0 auto;
  padding: 1.6rem 1rem 3rem;
}
.heading {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem;
  align-items: center;
  margin-bottom: 1rem;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
  margin-right: auto;
}
h2 {
  font-size: 1.05rem;
  margin: 2rem 0 0.3rem;
}
.lead {
  max-width: 44rem;
}
.quiet {
  color: var(--ink-3);
}
.invite {
  display: flex;
  flex-wrap: wrap;
  gap: 1.6rem;
  align-items: flex-start;
}
.invite img {
  width: min(17rem, 100%);
  background: #fff;
  border-radius: 10px;
}
.invite > div {
  flex: 1 1 20rem;
}
.code {
  font-size: 2.2rem;
  font-weight: 700;
  letter-spacing: 0.08em;
  font-variant-numeric: tabular-nums;
  margin: 0;
}
ol {
  padding-left: 1.2rem;
}
li {
  margin: 0.5rem 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
  border-top: 1px solid var(--line-2);
}
ul li {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
  align-items: baseline;
  margin: 0;
  padding: 0.55rem 0;
  border-bottom: 1px solid var(--line-2);
}
ul .quiet {
  margin-right: auto;
}
.caution {
  border-left: 3px solid var(--caution);
  padding-left: 0.8rem;
  margin-top: 1.4rem;
}
.done {
  color: var(--pass);
}
.wrong {
  color: var(--fail);
}
</style>
