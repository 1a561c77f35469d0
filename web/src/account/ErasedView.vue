<script setup lang="ts">
import AccountFrame from './AccountFrame.vue'
</script>

<template>
  <AccountFrame title="Everything is erased" text="Nothing of it can be brought back.">
    <p>
      Your pages, pictures, sources and figures are gone, and so is your account. Addresses you printed lead
      nowhere now, and for 90 days nobody else can have them.
    </p>
    <p class="small">
      <RouterLink class="other-way" :to="{ name: 'sign-up' }">Open a new account</RouterLink>
    </p>
  </AccountFrame>
</template>
