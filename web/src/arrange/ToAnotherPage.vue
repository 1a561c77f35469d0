<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Select from 'primevue/select'
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import type { Block } from '@/api/client'
import { pagesQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { nameOf } from '@/pages/standing'

/** Copies a block to the end of another page, or moves it there, which Undo takes back on both pages. */
const props = defineProps<{ block: Block }>()
const emit = defineEmits<{ close: [] }>()
const page = usePageStore()
const toast = useToast()
const client = useQueryClient()
const { data: pages } = useQuery(pagesQuery())
const others = computed(() =>
  (pages.value ?? [])
    .filter(({ id, state }) => id !== page.state?.id && state !== 'deleted')
    .map((each) => ({ id: each.id, label: nameOf(each) })),
)
const chosen = ref<string>()
const target = computed(() => others.value.find(({ id }) => id === chosen.value) ?? others.value[0])
const busy = ref(false)
const wrong = ref('')

async function put(moving: boolean) {
  if (!target.value || busy.value) return
  busy.value = true
  wrong.value = ''
  try {
    const said = { title: titleOf(props.block), page: target.value.label }
    await page.putOn(target.value, props.block, moving)
    toast.add({ severity: 'success', summary: t('pages.isOnNow', said), life: 5000 })
    await client.invalidateQueries({ queryKey: ['pages'] })
    if (moving) emit('close')
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <details v-if="others.length" class="elsewhere">
    <summary>{{ $t('pages.toAnotherPage') }}</summary>
    <p class="soft">{{ $t('pages.toAnotherPageSays') }}</p>
    <div class="line">
      <Select
        :model-value="target?.id"
        :options="others"
        option-value="id"
        option-label="label"
        :aria-label="$t('pages.toAnotherPage')"
        @update:model-value="chosen = $event"
      />
      <Button severity="secondary" :label="$t('pages.copyThere')" :disabled="busy" @click="put(false)" />
      <Button severity="secondary" :label="$t('pages.moveThere')" :disabled="busy" @click="put(true)" />
    </div>
    <WrongText :text="wrong" />
  </details>
</template>

<style scoped>
.elsewhere {
  border-top: 1px solid var(--line);
  padding-top: 12px;
}
summary {
  font-weight: 600;
  font-size: 0.9rem;
  cursor: pointer;
}
p {
  margin: 12px 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
