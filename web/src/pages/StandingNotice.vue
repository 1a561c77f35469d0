<script setup lang="ts">
import { useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import { ref } from 'vue'

/** How the page stands that visitors do not find as it is, and what ends that at one press. */
const props = defineProps<{ label: string; end: () => Promise<unknown> }>()
const client = useQueryClient()
const toast = useToast()
const busy = ref(false)

async function press() {
  busy.value = true
  try {
    await props.end()
    await client.invalidateQueries({ queryKey: ['pages'] })
  } catch (error) {
    toast.add({ severity: 'error', summary: (error as Error).message, life: 10_000 })
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="standing-notice">
    <p><slot /></p>
    <Button size="small" severity="secondary" :label="label" :loading="busy" @click="press" />
  </div>
</template>

<style scoped>
.standing-notice {
  display: flex;
  align-items: center;
  justify-content: space-between;
  flex-wrap: wrap;
  gap: 8px 16px;
  padding: 10px 14px;
  border: 1px solid var(--amber);
  border-radius: 8px;
  background: var(--amber-soft);
}
p {
  margin: 0;
  flex: 1 1 260px;
}
</style>
