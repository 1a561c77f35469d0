<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import type { Block } from '@/api/client'
import { sourcesQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import { t } from '@/i18n'

/** For whom something is, by the source they come from; for all when left out. Nothing while the page has no source. */
type SourceRule = NonNullable<Block['to']>
const props = defineProps<{ modelValue?: SourceRule; label: string }>()
const emit = defineEmits<{ 'update:modelValue': [rule: SourceRule | undefined] }>()
const route = useRoute()
const { data: sources } = useQuery(sourcesQuery(() => String(route.params.page)))

const rules = [
  { value: 'all', label: t('arrange.toAll') },
  { value: 'only', label: t('arrange.onlyFrom') },
  { value: 'but', label: t('arrange.allBut') },
] as const
const named = computed(() => props.modelValue?.sources ?? [])
const choices = computed(
  () => sources.value?.filter(({ retired, id }) => !retired || named.value.includes(id)) ?? [],
)

const set = (rule: 'all' | 'only' | 'but', ids: string[]) =>
  emit('update:modelValue', rule === 'all' || ids.length === 0 ? undefined : { rule, sources: ids })

/** A rule begins with the first source: one that names none says nothing. */
function setRule(rule: 'all' | 'only' | 'but') {
  const first = choices.value[0]?.id
  set(rule, named.value.length > 0 ? named.value : first ? [first] : [])
}

const without = (id: string) => named.value.filter((each) => each !== id)
</script>

<template>
  <template v-if="choices.length">
    <FieldChoice
      :label="label"
      :model-value="modelValue?.rule ?? 'all'"
      :options="rules"
      @update:model-value="setRule"
    />
    <template v-if="modelValue">
      <FieldSwitch
        v-for="source in choices"
        :key="source.id"
        :label="source.name"
        :model-value="named.includes(source.id)"
        @update:model-value="set(modelValue.rule, $event ? [...named, source.id] : without(source.id))"
      />
      <p class="soft small">{{ $t('arrange.bySource') }}</p>
    </template>
  </template>
</template>
