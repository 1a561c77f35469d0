<script setup lang="ts">
import { computed } from 'vue'
import type { Block, ReadingsView } from '@/api/client'
import type { Lane } from '@/sourceColours'
import BlockDrawer from './BlockDrawer.vue'
import FooterDrawer from './FooterDrawer.vue'
import HeaderDrawer from './HeaderDrawer.vue'
import IconsDrawer from './IconsDrawer.vue'
import PageDrawer from './PageDrawer.vue'

/** The editor of the open row, whichever that is. */
const props = defineProps<{
  open?: string
  blocks: Block[]
  lanes: Lane[]
  place: (key: string) => number
  figuresOf: (key: string) => { figures?: ReadingsView['blocks'][number] }
}>()
const emit = defineEmits<{
  close: []
  remove: [key: string]
  toggle: [key: string]
  duplicate: [key: string]
  move: [key: string, to: number]
}>()
const block = computed(() => props.blocks.find(({ key }) => key === props.open))
</script>

<template>
  <HeaderDrawer v-if="open === 'header'" @close="emit('close')" />
  <PageDrawer v-else-if="open === 'page'" @close="emit('close')" />
  <IconsDrawer
    v-else-if="open === 'icons'"
    :figures="figuresOf('icons').figures"
    :lanes="lanes"
    @close="emit('close')"
  />
  <FooterDrawer v-else-if="open === 'footer'" @close="emit('close')" />
  <BlockDrawer
    v-else-if="block"
    :key="block.key"
    :block="block"
    :figures="figuresOf(block.key).figures"
    :lanes="lanes"
    :place="place(block.key)"
    :first="blocks[0]?.key === block.key"
    :last="blocks.at(-1)?.key === block.key"
    @close="emit('close')"
    @remove="emit('remove', block.key)"
    @toggle="emit('toggle', block.key)"
    @duplicate="emit('duplicate', block.key)"
    @top="emit('move', block.key, 0)"
    @bottom="emit('move', block.key, blocks.length - 1)"
  />
</template>
