<script setup lang="ts">
import Button from 'primevue/button'
import type { Block, Buttons } from '@/api/client'
import { t } from '@/i18n'
import { titleOf } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { partWord } from '@/page/partWord'
import ButtonLooks from './ButtonLooks.vue'
import FieldPair from './FieldPair.vue'
import { useLook } from './useLook'

/** Looks that one block has for itself alone, with one press to go back. */
const props = defineProps<{ block: Block }>()
const page = usePageStore()
const { look, figures, palette } = useLook()

function begin() {
  const buttons = look.value?.buttons
  if (!buttons) return
  page.changeBlock(t('look.giveLooksOfItsOwn', { title: titleOf(props.block) }), props.block.key, (block) => {
    block.style = { buttons: structuredClone(buttons), pair: '' }
  })
}

function change(what: string, make: (buttons: Buttons) => void) {
  page.changeBlock(
    t('look.changeLooksOf', { what: partWord(what), title: titleOf(props.block) }),
    props.block.key,
    (block) => block.style && make(block.style.buttons),
    `${props.block.key}/style/${what}`,
  )
}

function setPair(pair: string) {
  page.changeBlock(t('look.changeTheFontsOf', { title: titleOf(props.block) }), props.block.key, (block) => {
    if (block.style) block.style.pair = pair
  })
}

function back() {
  page.changeBlock(t('look.letLookAsThePage', { title: titleOf(props.block) }), props.block.key, (block) => {
    block.style = undefined
  })
}
</script>

<template>
  <section class="own">
    <h3>{{ $t('look.looksOfItsOwn') }}</h3>
    <template v-if="block.style">
      <ButtonLooks
        :buttons="block.style.buttons"
        :figures="figures"
        :where="`blocks/${block.key}/style/`"
        :palette="palette"
        @change="change"
      />
      <FieldPair :model-value="block.style.pair" optional @update:model-value="setPair" />
      <Button :label="$t('look.asThePageAgain')" severity="secondary" @click="back" />
    </template>
    <template v-else>
      <p class="soft small">{{ $t('look.itLooksAsThePages') }}</p>
      <Button :label="$t('look.giveItItsOwn')" severity="secondary" size="small" @click="begin" />
    </template>
  </section>
</template>

<style scoped>
.own {
  display: grid;
  gap: 14px;
  padding-top: 16px;
  border-top: 1px solid var(--line);
  justify-items: stretch;
}
h3 {
  font: 600 0.95rem var(--font-text);
  letter-spacing: 0;
}
.own > :deep(button) {
  justify-self: start;
}
</style>
