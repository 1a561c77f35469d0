<script setup lang="ts">
import { leadTo } from '@/page/leadTo'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import FieldAddress from './FieldAddress.vue'
import FieldLead from './FieldLead.vue'
import { PLAIN } from './plain'
import { useContent } from './useContent'

const props = defineProps<{ block: Block }>()
const { content, set, change, setLead } = useContent(() => props.block, 'button')

const shapes = [
  { value: 'beside', label: 'Small, beside it' },
  { value: 'card', label: 'Wide, above it' },
  { value: 'plain', label: 'Words only' },
] as const
const movements = [
  { value: 'none', label: 'Still' },
  { value: 'nudge', label: 'Nudge' },
  { value: 'sway', label: 'Sway' },
  { value: 'glow', label: 'Glow' },
] as const

const card = computed(() => content.value.shape === 'card')
const fetching = ref(false)
const wrong = ref('')

async function fetchPicture() {
  fetching.value = true
  wrong.value = ''
  try {
    const found = await take(api.POST('/api/describe', { body: { address: content.value.address } }))
    if (!found.picture) throw new Error('The site offers no picture of itself.')
    setLead({ picture: found.picture })
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    fetching.value = false
  }
}
</script>

<template>
  <FieldText
    label="Title"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldText
    label="Second line"
    at="line"
    :model-value="content.line"
    :maxlength="160"
    @update:model-value="set('line', $event, 'second line')"
  />
  <FieldAddress
    label="Leads to"
    at="address"
    :model-value="content.address"
    still="The button still leads to where it did."
    @update:model-value="change('Change the address', (lead) => leadTo(lead, $event), 'address')"
  />
  <FieldLead :lead="content" :use="card ? 'column' : 'small'" :aspect="card ? 16 / 9 : 1" @change="setLead">
    <Button
      label="Take it from the site"
      severity="secondary"
      text
      size="small"
      :loading="fetching"
      @click="fetchPicture"
    />
  </FieldLead>
  <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
  <FieldChoice
    label="How it is shown"
    :model-value="content.shape ?? 'beside'"
    :options="shapes"
    @update:model-value="set('shape', $event)"
  />
  <FieldText
    label="Price or label"
    at="label"
    :model-value="content.label"
    :maxlength="24"
    hint="A short word at the end of the button."
    @update:model-value="set('label', $event)"
  />
  <FieldChoice
    label="Movement, now and then"
    :model-value="content.movement ?? 'none'"
    :options="movements"
    @update:model-value="set('movement', $event)"
  />
  <FieldSwitch
    label="Opens in a new window"
    :model-value="content.newWindow"
    @update:model-value="set('newWindow', $event, 'window')"
  />
  <FieldSwitch
    v-bind="PLAIN"
    :model-value="content.plain"
    @update:model-value="set('plain', $event, 'plain address')"
  />
  <FieldSwitch
    label="Paid for (sponsored)"
    hint="Tells search engines; many partners ask for it."
    :model-value="content.sponsored"
    @update:model-value="set('sponsored', $event)"
  />
  <FieldSwitch
    label="No recommendation (nofollow)"
    :model-value="content.nofollow"
    @update:model-value="set('nofollow', $event)"
  />
</template>
