<script setup lang="ts">
import Button from 'primevue/button'
import { useCopy } from '@/shell/useCopy'

/** Codes that are shown once. */
defineProps<{ codes: string[] }>()
defineEmits<{ kept: [] }>()
const copy = useCopy()
</script>

<template>
  <div class="recovery" role="status">
    <p>
      <strong>{{ $t('account.keepTheseCodes') }}</strong> {{ $t('account.eachLetsYouInOnce') }}
    </p>
    <ul>
      <li v-for="code in codes" :key="code">{{ code }}</li>
    </ul>
    <div class="acts">
      <Button
        severity="secondary"
        :label="$t('account.copyTheCodes')"
        @click="copy(codes.join('\n'), $t('account.theCodes'))"
      />
      <Button :label="$t('account.iHaveKeptThem')" @click="$emit('kept')" />
    </div>
  </div>
</template>

<style scoped>
.recovery {
  display: grid;
  gap: 12px;
  padding: 14px 16px;
  border: 1px solid var(--line-strong);
  background: var(--surface);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9rem, 1fr));
  gap: 4px 18px;
  font-variant-numeric: tabular-nums;
  letter-spacing: 0.06em;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
</style>
