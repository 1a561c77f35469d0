<script setup lang="ts">
import AccountFrame from './AccountFrame.vue'

/** A letter is on its way, and has what comes next. */
defineProps<{ email: string; text: string }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <AccountFrame :title="$t('account.lookIntoYourMailbox')" :text="text">
    <p class="to">{{ email }}</p>
    <p class="soft">{{ $t('account.ifNoLetterComes') }}</p>
    <p class="small">
      <button class="as-link" type="button" @click="$emit('again')">
        {{ $t('account.anotherAddress') }}
      </button>
    </p>
  </AccountFrame>
</template>

<style scoped>
.to {
  font-weight: 600;
  overflow-wrap: anywhere;
}
</style>
