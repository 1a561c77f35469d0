<script setup lang="ts">
import Button from 'primevue/button'
import { ref } from 'vue'
import { api, take, type Block } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { leadTo } from '@/page/leadTo'
import FieldPicture from '@/pictures/FieldPicture.vue'
import FieldAddress from './FieldAddress.vue'
import { useContent } from './useContent'

/** A film or a sound that is kept elsewhere: whose page it is on, and the player that was found there. */
const props = defineProps<{ block: Block }>()
const { content, set, change } = useContent(() => props.block, 'player')

const asking = ref(false)
const wrong = ref<string>()

/** Asks the site which player there is, and takes what it says. */
async function ask() {
  const { address } = content.value
  asking.value = true
  wrong.value = undefined
  try {
    const { player } = await take(api.POST('/api/describe', { body: { address } }))
    if (!player) {
      wrong.value = t('kinds.noPlayerThere')
      return
    }
    change(t('kinds.takeItsPlayer'), (film) => {
      const { title, still, destinationId } = film
      Object.assign(film, player, { destinationId, still: player.still ?? still })
      if (title && title !== t('kinds.newFilm')) film.title = title
    })
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    asking.value = false
  }
}

const hostOf = (frame: string) => URL.parse(frame)?.host ?? ''
</script>

<template>
  <FieldText
    :label="$t('common.title')"
    at="title"
    :model-value="content.title"
    :maxlength="120"
    @update:model-value="set('title', $event)"
  />
  <FieldAddress
    :label="$t('kinds.pageOfTheFilm')"
    at="address"
    :model-value="content.address"
    :still="$t('kinds.thePlayerStillLeads')"
    @update:model-value="change($t('kinds.changeTheAddress'), (film) => leadTo(film, $event), 'address')"
  />
  <div class="field">
    <Button
      size="small"
      severity="secondary"
      :label="asking ? $t('arrange.askingTheSite') : $t('kinds.askForItsPlayer')"
      :disabled="asking"
      @click="ask"
    />
    <p v-if="content.frame" class="hint">
      {{ $t('kinds.playsFrom', { host: hostOf(content.frame) }) }}
    </p>
    <p v-else class="hint">{{ $t('kinds.noPlayerYet') }}</p>
    <WrongText :text="wrong" />
  </div>
  <FieldText
    :label="$t('kinds.whoPlaysIt')"
    at="provider"
    :model-value="content.provider"
    :maxlength="60"
    @update:model-value="set('provider', $event)"
  />
  <FieldPicture
    :label="$t('kinds.itsPicture')"
    :model-value="content.still"
    use="column"
    :alt="$t('kinds.itsPicture')"
    @update:model-value="set('still', $event)"
  />
</template>
