<script setup lang="ts">
/** Stands where an address of the studio leads to nothing. */
</script>

<template>
  <div class="view">
    <h1>{{ $t('shell.unknownAddress') }}</h1>
    <p>{{ $t('shell.unknownAddressSays') }}</p>
    <p>
      <RouterLink class="more" :to="{ name: 'pages' }">{{ $t('shell.toMyPages') }}</RouterLink>
    </p>
  </div>
</template>
