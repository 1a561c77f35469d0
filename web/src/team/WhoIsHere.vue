<script setup lang="ts">
import { Users } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { onBeforeUnmount, toRef, watch } from 'vue'
import { api, take } from '@/api/client'

/** Who else has the page open to work on it. It is said every twenty seconds that one is there oneself. */
const props = defineProps<{ page: string }>()
const EVERY = 20_000
const page = toRef(props, 'page')
const { data } = useQuery({
  queryKey: ['present', page],
  queryFn: () => take(api.POST('/api/pages/{page}/present', { params: { path: { page: page.value } } })),
  refetchInterval: EVERY,
  refetchOnWindowFocus: true,
  retry: false,
})
const leave = (left: string) =>
  void fetch(`/api/pages/${left}/present`, { method: 'DELETE', keepalive: true }).catch(() => {})
watch(page, (_, before) => leave(before))
onBeforeUnmount(() => leave(page.value))
</script>

<template>
  <p v-if="data?.others.length" class="here" role="status">
    <Users aria-hidden="true" />
    <span>{{ $t('team.alsoHere', { who: data.others.join(', ') }, data.others.length) }}</span>
  </p>
</template>

<style scoped>
.here {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 0;
  padding: 6px 28px;
  border-bottom: 1px solid var(--line);
  background: var(--accent-soft);
  font-size: 0.9rem;
}
.here svg {
  width: 18px;
  flex: none;
}
.here span {
  overflow-wrap: anywhere;
}
@media (max-width: 720px) {
  .here {
    padding: 6px 14px;
  }
}
</style>
