<script setup lang="ts">
import Dialog from './focusedDialog'

const visible = defineModel<boolean>('visible', { required: true })
const keys: [string[], string][] = [
  [['↑', '↓'], 'walk from load to load'],
  [['←', '→'], 'walk along the path, toward the source or the load'],
  [['N'], 'next finding'],
  [['P'], 'previous finding'],
  [['F'], 'take the first fix of the chosen finding'],
  [['A'], 'add a load, block or source to a free port'],
  [['/'], 'find a part or lead'],
  [['J'], 'join what is chosen elsewhere'],
  [['X'], 'mark one more (also Shift with a press)'],
  [['O'], 'fold the loads of a block into one row, and unfold them'],
  [['E'], 'edit what is chosen'],
  [['Del'], 'remove what is chosen'],
  [['U'], 'undo (also Ctrl Z)'],
  [['R'], 'redo (also Ctrl Y)'],
  [['W'], 'worst of all states'],
  [['M'], 'mend all: whole ways side by side'],
  [['S'], 'size it: least weight, cost or drop'],
  [['C'], 'short circuit: what opens, what survives'],
  [['Q'], 'noise and its cure'],
  [['0', '9'], 'in a survey: the S-reading, and on to the next cell; + ten over nine, . half'],
  [['B'], 'build sheet'],
  [['?'], 'this sheet'],
  [['Esc'], 'close what is open'],
]
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Keys" :style="{ width: '27rem' }" :draggable="false" dismissable-mask>
    <dl>
      <template v-for="[combo, does] in keys" :key="does">
        <dt>
          <kbd v-for="key in combo" :key="key">{{ key }}</kbd>
        </dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
  </Dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 6rem 1fr;
  gap: 0.4rem 0.8rem;
  margin: 0;
}
dt {
  text-align: right;
}
dd {
  margin: 0;
  color: var(--ink-2);
}
kbd {
  margin-left: 0.25rem;
}
</style>
