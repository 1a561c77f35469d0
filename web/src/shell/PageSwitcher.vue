<script setup lang="ts">
import { LayoutList } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import Select from 'primevue/select'
import { computed } from 'vue'
import { pagesQuery } from '@/api/queries'
import { counted } from '@/figures'
import { usePageStore } from '@/page/pageStore'
import PageMark from '@/pages/PageMark.vue'
import { nameOf, standingWords } from '@/pages/standing'

/** The page that is open, and the others by picture, state and clicks of the week. */
const { open = undefined } = defineProps<{
  /** The page of a view that knows nothing of working copies. */
  open?: string
}>()
const emit = defineEmits<{ choose: [page: string] }>()
const page = usePageStore()
const { data: pages } = useQuery(pagesQuery())
const choices = computed(() =>
  (pages.value ?? [])
    .filter((each) => each.state !== 'deleted' || each.id === page.state?.id)
    .map((each) => ({
      ...each,
      label: (each.id === page.state?.id && page.document?.header.name) || nameOf(each),
    })),
)
</script>

<template>
  <Select
    v-if="choices.length > 1"
    class="switch"
    :model-value="open ?? page.state?.id"
    :options="choices"
    option-value="id"
    option-label="label"
    scroll-height="60vh"
    :aria-label="$t('shell.page')"
    @update:model-value="emit('choose', $event)"
  >
    <template #option="{ option }">
      <PageMark :page="option" :size="34" />
      <span class="choice">
        <strong>{{ option.label }}</strong>
        <span class="small"
          >{{ standingWords(option) }} · {{ counted(option.clicks, 'click') }}
          <span class="visually-hidden">{{ $t('pages.inSevenDays') }}</span></span
        >
      </span>
    </template>
  </Select>
  <strong v-else class="only">{{ choices[0]?.label }}</strong>
  <RouterLink
    v-if="!open"
    v-tooltip.bottom="$t('pages.allPages')"
    class="tool all"
    :to="{ name: 'pages' }"
    :aria-label="$t('pages.allPages')"
    ><LayoutList aria-hidden="true"
  /></RouterLink>
</template>

<style scoped>
.switch {
  max-width: 17rem;
}
.choice {
  display: grid;
  margin-left: 10px;
  max-width: 20rem;
}
.choice > * {
  overflow: hidden;
  text-overflow: ellipsis;
}
.all {
  margin-left: -12px;
}
.only {
  font-family: var(--font-head);
  font-size: 1.05rem;
}
@media (max-width: 720px) {
  .switch,
  .only {
    flex: 1 1 calc(100% - 240px);
    min-width: 0;
    max-width: none;
  }
}
</style>
