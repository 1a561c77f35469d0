<script setup lang="ts">
import { RouterLink } from 'vue-router'
import type { Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import { useContent } from './useContent'

/** A form on which visitors leave their e-mail address. */
const props = defineProps<{ block: Block }>()
const { content, set } = useContent(() => props.block, 'signup')
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    :label="$t('kinds.whatTheyGet')"
    at="text"
    :model-value="content.text"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('text', $event)"
  />
  <FieldText
    :label="$t('kinds.whatTheyAgreeTo')"
    at="consent"
    :model-value="content.consent"
    :maxlength="600"
    :lines="3"
    :hint="$t('kinds.besideABoxToTick')"
    @update:model-value="set('consent', $event)"
  />
  <FieldText
    :label="$t('kinds.onTheButton')"
    at="button"
    :model-value="content.button"
    :maxlength="40"
    :hint="$t('kinds.leftEmptySignUp')"
    @update:model-value="set('button', $event)"
  />
  <FieldText
    :label="$t('kinds.saidAtTheEnd')"
    at="thanks"
    :model-value="content.thanks"
    :maxlength="300"
    :lines="2"
    @update:model-value="set('thanks', $event)"
  />
  <p class="soft">
    {{ $t('kinds.eachAddressIsConfirmed') }}
    <RouterLink class="more" :to="{ name: 'sign-ups' }">{{ $t('kinds.toTheSignUps') }}</RouterLink>
  </p>
</template>
