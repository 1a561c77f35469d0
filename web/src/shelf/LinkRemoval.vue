<script setup lang="ts">
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { ref } from 'vue'
import type { ShortLink } from '@/api/client'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { dayWords } from '@/pages/standing'
import { bare } from './shortLinks'

/** Deletes a short link; it waits before it is gone for good, and can be kept until then. */
const props = defineProps<{ link: ShortLink; change: (deleted: boolean) => Promise<void> }>()
const confirm = useConfirm()
const busy = ref(false)
const wrong = ref('')

async function set(deleted: boolean) {
  busy.value = true
  wrong.value = ''
  try {
    await props.change(deleted)
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}

function ask() {
  confirm.require({
    header: t('shelf.deleteLink'),
    message: t('shelf.sureDeleteLink', { address: bare(props.link.shortAddress) }),
    acceptProps: { label: t('shelf.deleteIt'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => void set(true),
  })
}
</script>

<template>
  <section aria-labelledby="removal-title">
    <h3 id="removal-title">{{ $t('shelf.deleteIt') }}</h3>
    <template v-if="link.deleteAt">
      <p>{{ $t('shelf.linkDeleted', { date: dayWords(link.deleteAt) }) }}</p>
      <Button severity="secondary" :label="$t('pages.keepAfterAll')" :loading="busy" @click="set(false)" />
    </template>
    <template v-else>
      <p class="soft">{{ $t('shelf.deleteLinkSays') }}</p>
      <Button severity="danger" text :label="$t('shelf.deleteLink')" :loading="busy" @click="ask" />
    </template>
    <WrongText :text="wrong" />
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  justify-items: start;
  border-top: 1px solid var(--line);
  padding-top: 16px;
}
h3 {
  font-size: 1rem;
}
p {
  margin: 0;
}
</style>
