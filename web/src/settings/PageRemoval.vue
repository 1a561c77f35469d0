<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, take } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { saveAll } from '@/saving/editing'

/** Takes the page down; it waits before it is gone for good. */
const page = usePageStore()
const client = useQueryClient()
const confirm = useConfirm()
const router = useRouter()
const wrong = ref('')

async function takeDown(id: string) {
  wrong.value = ''
  try {
    await saveAll()
    await take(api.DELETE('/api/pages/{page}', { params: { path: { page: id } } }))
    await client.invalidateQueries({ queryKey: ['pages'] })
    await page.refresh()
    await router.push({ name: 'pages' })
  } catch (error) {
    wrong.value = (error as Error).message
  }
}

function ask() {
  const id = page.state?.id
  if (!id) return
  confirm.require({
    header: t('pages.takeThisPageDown'),
    message: t('pages.sureTakeDown', { name: page.document?.header.name || page.state?.address }),
    acceptProps: { label: t('pages.takeDown'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => void takeDown(id),
  })
}
</script>

<template>
  <section aria-labelledby="down-title">
    <h2 id="down-title">{{ $t('pages.takeDown') }}</h2>
    <p class="soft">{{ $t('pages.takeDownSays') }}</p>
    <Button severity="danger" text :label="$t('pages.takeThisPageDown')" @click="ask" />
    <WrongText :text="wrong" />
  </section>
</template>
