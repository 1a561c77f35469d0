<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed, ref } from 'vue'
import type { Pasted } from '@/api/client'
import { counted } from '@/figures'
import { titleOf } from '@/page/blockWords'

/** What was made of several pasted lines; the creator says which are added. */
const props = defineProps<{
  lines: Pasted[]
  /** The title of a block that leads to the same destination already. */
  twinOf: (line: Pasted) => string
  kindWords: (line: Pasted) => string
}>()
const emit = defineEmits<{ cancel: []; add: [lines: Pasted[]] }>()

// What is unsure, or on the page already, is left out unless it is asked for.
const wanted = ref(
  props.lines.map((line) => line.block !== undefined && !line.unsure && line.already.length === 0),
)
const chosen = computed(() => props.lines.filter((_, i) => wanted.value[i]))
</script>

<template>
  <Dialog
    visible
    modal
    :header="counted(lines.length, 'line')"
    :style="{ width: '44rem' }"
    :breakpoints="{ '720px': '94vw' }"
    @update:visible="emit('cancel')"
  >
    <p class="soft">{{ $t('arrange.thisIsWhatWasMade') }}</p>
    <ol class="lines">
      <li v-for="(line, i) in lines" :key="i">
        <label v-if="line.block">
          <input v-model="wanted[i]" type="checkbox" />
          <span class="kind">{{ kindWords(line) }}</span>
          <span class="what"
            ><strong>{{ titleOf(line.block) }}</strong
            ><small>{{ line.given }}</small
            ><small v-if="line.unsure" class="twin">{{
              $t('arrange.unsure', { message: line.message })
            }}</small
            ><small v-else-if="twinOf(line)" class="twin">{{
              $t('arrange.leadsThereAlready', { title: twinOf(line) })
            }}</small></span
          >
        </label>
        <p v-else class="none">
          <span class="kind">{{ $t('arrange.leftOut') }}</span>
          <span class="what"
            ><strong>{{ line.given }}</strong
            ><small>{{ line.message }}</small></span
          >
        </p>
      </li>
    </ol>
    <template #footer>
      <Button :label="$t('common.cancel')" severity="secondary" text @click="emit('cancel')" />
      <Button
        :label="$t('arrange.addBlocks', chosen.length)"
        :disabled="chosen.length === 0"
        autofocus
        @click="emit('add', chosen)"
      />
    </template>
  </Dialog>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 12px 0 0;
  padding: 0;
  max-height: 50vh;
  overflow: auto;
  border-top: 1px solid var(--line);
}
li {
  border-bottom: 1px solid var(--line);
}
label,
.none {
  display: grid;
  grid-template-columns: 20px 70px minmax(0, 1fr);
  gap: 10px;
  padding: 8px 0;
  align-items: start;
}
.none {
  grid-template-columns: 70px minmax(0, 1fr);
  padding-left: 30px;
  color: var(--ink-soft);
}
input {
  margin-top: 4px;
  accent-color: var(--accent);
}
.kind {
  font-size: 0.85rem;
  color: var(--ink-soft);
  padding-top: 1px;
}
.what {
  display: grid;
  overflow-wrap: anywhere;
}
small {
  color: var(--ink-soft);
}
.twin {
  color: var(--amber);
}
</style>
