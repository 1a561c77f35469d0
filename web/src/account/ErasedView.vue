<script setup lang="ts">
import AccountFrame from './AccountFrame.vue'
</script>

<template>
  <AccountFrame :title="$t('account.everythingIsErased')" :text="$t('account.nothingOf')">
    <p>
      {{ $t('account.yourPagesPicturesSources') }}
    </p>
    <p class="small">
      <RouterLink class="other-way" :to="{ name: 'sign-up' }">{{ $t('account.openANewAccount') }}</RouterLink>
    </p>
  </AccountFrame>
</template>
