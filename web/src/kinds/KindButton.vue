<script setup lang="ts">
import { t } from '@/i18n'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { leadTo } from '@/page/leadTo'
import FieldAddress from './FieldAddress.vue'
import FieldLead from './FieldLead.vue'
import TitleAndLine from './TitleAndLine.vue'
import { PLAIN } from './plain'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'button')

const shapes = [
  { value: 'beside', label: t('kinds.smallBesideIt') },
  { value: 'card', label: t('kinds.wideAboveIt') },
  { value: 'plain', label: t('kinds.wordsOnly') },
] as const
const movements = [
  { value: 'none', label: t('kinds.still') },
  { value: 'nudge', label: t('kinds.nudge') },
  { value: 'sway', label: t('kinds.sway') },
  { value: 'glow', label: t('kinds.glow') },
] as const

const card = computed(() => content.value.shape === 'card')
const fetching = ref(false)
const wrong = ref('')

async function fetchPicture() {
  fetching.value = true
  wrong.value = ''
  try {
    const found = await take(api.POST('/api/describe', { body: { address: content.value.address } }))
    if (!found.picture) throw new Error(t('kinds.theSiteOffersNoPicture'))
    setLead({ picture: found.picture })
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    fetching.value = false
  }
}
</script>

<template>
  <TitleAndLine
    :content="content"
    @title="set('title', $event)"
    @line="set('line', $event, $t('kinds.secondLineOf'))"
  />
  <FieldAddress
    :label="$t('common.leadsTo')"
    at="address"
    :model-value="content.address"
    :still="$t('kinds.theButtonStillLeads')"
    @update:model-value="change($t('kinds.changeTheAddress'), (lead) => leadTo(lead, $event), 'address')"
  />
  <FieldLead :lead="content" :use="card ? 'column' : 'small'" :aspect="card ? 16 / 9 : 1" @change="setLead">
    <Button
      :label="$t('kinds.takeItFromTheSite')"
      severity="secondary"
      text
      size="small"
      :loading="fetching"
      @click="fetchPicture"
    />
  </FieldLead>
  <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
  <FieldChoice
    :label="$t('kinds.howItIsShown')"
    :model-value="content.shape ?? 'beside'"
    :options="shapes"
    @update:model-value="set('shape', $event)"
  />
  <FieldText
    :label="$t('kinds.priceOrLabel')"
    at="label"
    :model-value="content.label"
    :maxlength="24"
    :hint="$t('kinds.aShortWord')"
    @update:model-value="set('label', $event)"
  />
  <FieldChoice
    :label="$t('kinds.movementNowAndThen')"
    :model-value="content.movement ?? 'none'"
    :options="movements"
    @update:model-value="set('movement', $event)"
  />
  <FieldSwitch
    :label="$t('kinds.opensInANewWindow')"
    :model-value="content.newWindow"
    @update:model-value="set('newWindow', $event, 'window')"
  />
  <FieldSwitch
    v-bind="PLAIN"
    :model-value="content.plain"
    @update:model-value="set('plain', $event, $t('kinds.plainAddress'))"
  />
  <FieldSwitch
    :label="$t('kinds.paidForSponsored')"
    :hint="$t('kinds.tellsSearchEnginesManyPartners')"
    :model-value="content.sponsored"
    @update:model-value="set('sponsored', $event)"
  />
  <FieldSwitch
    :label="$t('kinds.noRecommendationNofollow')"
    :model-value="content.nofollow"
    @update:model-value="set('nofollow', $event)"
  />
</template>
