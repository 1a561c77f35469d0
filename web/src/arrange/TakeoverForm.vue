<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { ref, useId } from 'vue'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { aDayOn, toMoment, toWallClock } from '@/fields/zonedTime'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useUndo } from '@/shell/useUndo'
import { useZone } from '@/shell/useZone'
import SourceRuleFields from './SourceRuleFields.vue'

/** Lets a block stand alone for a while, or, without one, the page’s address lead straight to another. */
const props = defineProps<{ solo?: string }>()
const page = usePageStore()
const offerUndo = useUndo()
const id = useId()

const zone = useZone()
const address = ref('')
const from = ref('')
const until = ref(toWallClock(aDayOn(), zone.value) ?? '')
const to = ref<Block['to']>()
const busy = ref(false)
const wrong = ref('')

async function begin() {
  busy.value = true
  wrong.value = ''
  const before = new Set(page.state?.takeovers?.map(({ id }) => id))
  try {
    await page.beginTakeover({
      solo: props.solo,
      passThrough: props.solo ? undefined : address.value.trim(),
      from: toMoment(from.value || undefined, zone.value),
      until: toMoment(until.value || undefined, zone.value),
      to: to.value,
    })
    address.value = ''
    const begun = page.state?.takeovers?.find(({ id }) => !before.has(id))
    if (begun) offerUndo(t('arrange.takeoverIsLive'), () => page.endTakeover(begun.id))
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="takeover" @submit.prevent="begin">
    <FieldText v-if="!solo" v-model="address" :label="$t('common.leadsTo')" inputmode="url" />
    <div class="times">
      <label :for="`${id}-from`">{{ $t('fields.from') }}</label>
      <InputText :id="`${id}-from`" v-model="from" type="datetime-local" />
      <span class="soft small">{{ from ? '' : $t('arrange.now') }}</span>
      <label :for="`${id}-until`">{{ $t('fields.until') }}</label>
      <InputText :id="`${id}-until`" v-model="until" type="datetime-local" />
      <span class="soft small">{{ until ? '' : $t('arrange.untilEnded') }}</span>
    </div>
    <SourceRuleFields v-model="to" :label="$t('arrange.forWhom')" />
    <Button
      type="submit"
      size="small"
      severity="secondary"
      :loading="busy"
      :label="solo ? $t('arrange.standAlone') : $t('arrange.leadStraight')"
    />
    <WrongText :text="wrong" />
  </form>
</template>

<style scoped>
.takeover {
  display: grid;
  gap: 12px;
  justify-self: stretch;
}
.takeover > button {
  justify-self: start;
}
.times {
  display: grid;
  grid-template-columns: 3rem 13.5rem auto;
  align-items: center;
  gap: 6px 8px;
}
label {
  font-size: 0.87rem;
  color: var(--ink-soft);
}
</style>
