<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, take, type Lead, type NewTrial, type TrialView } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import FieldLead from '@/kinds/FieldLead.vue'
import { usePageStore } from '@/page/pageStore'
import { planWords } from './trialWords'

/** A trial to begin: one thing, in one or two other ways, and what that could find. */
const props = defineProps<{ pageId: string; busy: boolean; wrong?: string }>()
const emit = defineEmits<{ begin: [trial: NewTrial] }>()
const page = usePageStore()
const route = useRoute()

type Kind = NewTrial['kind']
const KINDS: { value: Kind; label: string }[] = [
  { value: 'title', label: t('trials.title') },
  { value: 'picture', label: t('trials.picture') },
  { value: 'place', label: t('trials.place') },
  { value: 'order', label: t('trials.order') },
]
/** An order that was advised comes along in the address. */
const advised = typeof route.query.order === 'string' ? route.query.order.split('.') : undefined
const kind = ref<Kind>(advised ? 'order' : 'title')
const kinds = computed(() => KINDS.filter(({ value }) => value !== 'order' || advised))
const buttons = computed(() => (page.document?.blocks ?? []).filter(({ shown, button }) => shown && button))
const block = ref('')
watch(
  buttons,
  (list) => {
    if (!list.some(({ key }) => key === block.value)) block.value = list[0]?.key ?? ''
  },
  { immediate: true },
)
const places = computed(() => (page.document?.blocks ?? []).filter(({ shown }) => shown).length)

interface Draft {
  title: string
  place: number
  lead: Lead
}
const empty = (place: number): Draft => ({ title: '', place, lead: {} })
const drafts = reactive<Draft[]>([empty(1)])
const days = ref(28)
const worth = ref(2)

const wanted = computed<NewTrial>(() => ({
  kind: kind.value,
  block: kind.value === 'order' ? undefined : block.value,
  variants:
    kind.value === 'order'
      ? [{ order: advised }]
      : drafts.map(({ title, place, lead }) =>
          kind.value === 'title' ? { title } : kind.value === 'place' ? { place } : { lead },
        ),
  days: days.value,
  worth: worth.value / 100,
}))

const plan = ref<TrialView['plan']>()
const planWrong = ref('')
const ask = useDebounceFn(async () => {
  try {
    const path = { page: props.pageId }
    const answer = await take(
      api.POST('/api/pages/{page}/trial-plans', { params: { path }, body: wanted.value }),
    )
    plan.value = answer
    planWrong.value = ''
  } catch (error) {
    plan.value = undefined
    planWrong.value = error instanceof Error ? error.message : String(error)
  }
}, 400)
const isFilled = computed(() => kind.value !== 'title' || drafts.every(({ title }) => title.trim()))
watch(
  wanted,
  () => {
    if (isFilled.value) void ask()
    else [plan.value, planWrong.value] = [undefined, '']
  },
  { immediate: true, deep: true },
)
</script>

<template>
  <form class="new" @submit.prevent="emit('begin', wanted)">
    <FieldChoice v-model="kind" :label="$t('trials.whatDiffers')" :options="kinds" />
    <div v-if="kind !== 'order'" class="field">
      <label for="trial-button">{{ $t('common.button') }}</label>
      <Select
        v-model="block"
        label-id="trial-button"
        :options="buttons"
        option-value="key"
        :option-label="(each: (typeof buttons)[number]) => each.button?.title ?? each.key"
        :aria-label="$t('common.button')"
      />
    </div>
    <p v-else>{{ $t('trials.advisedOrder') }}</p>
    <template v-if="kind !== 'order'">
      <div v-for="(draft, i) in drafts" :key="i" class="variant">
        <div v-if="kind === 'title'" class="field">
          <label :for="`trial-title-${i}`">{{ $t('trials.otherTitle', { n: i + 1 }, drafts.length) }}</label>
          <InputText :id="`trial-title-${i}`" v-model="draft.title" maxlength="120" autocomplete="off" />
        </div>
        <div v-else-if="kind === 'place'" class="field">
          <label :for="`trial-place-${i}`">{{ $t('trials.otherPlace') }}</label>
          <InputNumber
            v-model="draft.place"
            :input-id="`trial-place-${i}`"
            :min="1"
            :max="places"
            show-buttons
          />
        </div>
        <FieldLead v-else :lead="draft.lead" @change="draft.lead = $event" />
        <Button
          v-if="drafts.length > 1"
          size="small"
          text
          severity="secondary"
          :label="$t('trials.leaveOut')"
          @click="drafts.splice(i, 1)"
        />
      </div>
      <Button
        v-if="drafts.length < 2"
        size="small"
        text
        class="more"
        :label="$t('trials.aThird')"
        @click="drafts.push(empty(2))"
      />
    </template>
    <div class="numbers">
      <div class="field">
        <label for="trial-days">{{ $t('trials.forDays') }}</label>
        <InputNumber v-model="days" input-id="trial-days" :min="14" :max="90" show-buttons />
      </div>
      <div class="field">
        <label for="trial-worth">{{ $t('trials.worth') }}</label>
        <InputNumber
          v-model="worth"
          input-id="trial-worth"
          :min="0.1"
          :max="50"
          :min-fraction-digits="1"
          :step="0.5"
          show-buttons
        />
      </div>
    </div>
    <p v-if="plan" class="plan" role="status">{{ planWords(plan, days) }}</p>
    <WrongText :text="wrong || planWrong" />
    <Button type="submit" :label="$t('trials.begin')" :disabled="!plan || busy" :loading="busy" />
    <p class="soft small">{{ $t('trials.beginSays') }}</p>
  </form>
</template>

<style scoped>
.new {
  display: grid;
  gap: 14px;
  justify-items: start;
  max-width: 40rem;
}
.field,
.variant {
  width: 100%;
}
.numbers {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
}
.numbers .field {
  width: auto;
}
.numbers :deep(input) {
  width: 6rem;
}
.plan {
  border-left: 3px solid var(--accent);
  padding-left: 10px;
}
</style>
