<script setup lang="ts">
import type { ReadingsView } from '@/api/client'
import { counted } from '@/figures'

/** Today, which is not over, beside a range of days that are. */
defineProps<{ today: NonNullable<ReadingsView['today']> }>()
</script>

<template>
  <p class="soft">
    {{
      $t('readings.todaySoFar', {
        visits: counted(today.visits, 'visit'),
        clicks: counted(today.clicks, 'click'),
      })
    }}
  </p>
</template>
