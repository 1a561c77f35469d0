<script setup lang="ts">
import CampaignBuilder from './CampaignBuilder.vue'
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>Shelf</h1>
        <p>What all your pages share.</p>
      </div>
    </div>
    <CampaignBuilder />
  </div>
</template>
