<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, ApiError, take, type Document } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { formatsOf, t } from '@/i18n'
import { newKey } from '@/page/newKey'
import { usePageStore } from '@/page/pageStore'
import CodeFields from './CodeFields.vue'

/** The tracking codes of a page, and what each costs its visitors. */
type Code = NonNullable<Document['codes']>[number]
const page = usePageStore()
const MOST = 10
const codes = computed(() => page.document?.codes ?? [])
const opened = ref<string>()

const set = (key: string, change: Partial<Code>, join?: string) =>
  page.change(
    t('settings.changeATrackingCode'),
    (draft) => void Object.assign(draft.codes?.find((each) => each.key === key) ?? {}, change),
    join && `codes/${key}/${join}`,
  )

const isRefused = (key: string) => page.refusals.some(({ place }) => `${place}/`.startsWith(`codes/${key}/`))

/** Whether it runs for visitors, or why not. */
function standingOf(code: Code) {
  if (isRefused(code.key)) return t('settings.codeIsNotSaved')
  if (!code.on) return t('settings.itIsOff')
  return page.state?.runsCodes ? t('settings.itIsOn') : t('settings.itWaits')
}

/** A new one is kept once it has a code: until then it is here alone. */
const fresh = ref<{ name: string; code: string }>()
function add() {
  const { name, code } = fresh.value ?? { name: '', code: '' }
  const key = newKey()
  fresh.value = undefined
  opened.value = key
  page.change(t('settings.addATrackingCode'), (draft) => {
    draft.codes = [...(draft.codes ?? []), { key, name, code, where: 'head', hosts: [], on: true }]
  })
  void weigh(key, code)
}
const remove = (key: string) =>
  page.change(t('settings.removeATrackingCode'), (draft) => {
    draft.codes = draft.codes?.filter((each) => each.key !== key)
  })

const costs = ref<Record<string, string>>({})
async function weigh(key: string, code: string) {
  costs.value[key] = t('settings.weighing')
  try {
    const parts = await take(api.POST('/api/tracking-codes/weight', { body: { code } }))
    const sum = (of: 'bytes' | 'millis') => parts.reduce((all, part) => all + part[of], 0)
    const silent = parts.filter((part) => !part.bytes).length
    costs.value[key] = silent
      ? t('settings.someGaveNoAnswer', silent)
      : t('settings.codeCosts', {
          kb: (sum('bytes') / 1000).toLocaleString(formatsOf(), { maximumFractionDigits: 1 }),
          seconds: (sum('millis') / 1000).toLocaleString(formatsOf(), { maximumFractionDigits: 2 }),
        })
  } catch (error) {
    // What is no code at all is said beside it, where it is refused.
    costs.value[key] = error instanceof ApiError && error.status === 422 ? '' : (error as Error).message
  }
}
</script>

<template>
  <section v-if="page.document" aria-labelledby="codes-title">
    <h2 id="codes-title">{{ $t('settings.trackingCodes') }}</h2>
    <p class="soft">{{ $t('settings.whatTrackingCodesDo') }}</p>
    <p v-if="!page.state?.runsCodes" role="status">{{ $t('settings.noneRunsHere') }}</p>
    <ul v-if="codes.length" class="codes">
      <li v-for="code in codes" :key="code.key">
        <div class="one">
          <strong>{{ code.name }}</strong>
          <span :class="isRefused(code.key) ? 'refused' : 'soft'">{{ standingOf(code) }}</span>
          <Button
            size="small"
            severity="secondary"
            :label="opened === code.key ? $t('settings.closeIt') : $t('settings.editIt')"
            :aria-label="$t('settings.editTheCode', { name: code.name })"
            :aria-expanded="opened === code.key"
            @click="opened = opened === code.key ? undefined : code.key"
          />
        </div>
        <CodeFields
          v-if="opened === code.key"
          :code="code"
          :cost="costs[code.key]"
          @set="(change, join) => set(code.key, change, join)"
          @weigh="weigh(code.key, code.code)"
          @remove="remove(code.key)"
        />
      </li>
    </ul>
    <form v-if="fresh" class="fields" @submit.prevent="add">
      <FieldText v-model="fresh.name" :label="$t('settings.whoseCode')" :maxlength="60" />
      <FieldText
        v-model="fresh.code"
        :label="$t('settings.theCode')"
        :maxlength="8192"
        :lines="6"
        :hint="$t('settings.asTheServiceGivesIt')"
      />
      <Button
        type="submit"
        :label="$t('settings.putItOnThePage')"
        :disabled="!fresh.name.trim() || !fresh.code.trim()"
      />
    </form>
    <Button
      v-else-if="codes.length < MOST"
      size="small"
      severity="secondary"
      :label="$t('settings.addATrackingCode')"
      @click="fresh = { name: '', code: '' }"
    />
  </section>
</template>

<style scoped>
.codes {
  width: min(100%, 44rem);
  max-width: none;
  margin: 0;
  padding: 0;
  list-style: none;
}
.codes > li {
  padding: 8px 0;
  border-top: 1px solid var(--line);
}
.one {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 12px;
}
.one span {
  flex: 1;
}
.refused {
  color: var(--danger);
}
.fields {
  display: grid;
  gap: 14px;
  width: min(100%, 34rem);
  padding: 8px 0 14px;
}
</style>
