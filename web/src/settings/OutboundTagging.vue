<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { api, take } from '@/api/client'
import { sourcesQuery } from '@/api/queries'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import FieldText from '@/fields/FieldText.vue'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'

/** Tags on clicks going out, so that the creator's own site statistics agree with the page's figures. */
const route = useRoute()
const page = usePageStore()
const { data: sources } = useQuery(sourcesQuery(() => String(route.params.page)))
const tagging = computed(() => page.document?.tagging ?? { on: false, campaign: '' })

function set(change: Partial<{ on: boolean; campaign: string }>) {
  page.change(
    t('settings.changeTheTagsOfClicks'),
    (draft) => {
      const campaign = tagging.value.campaign || (page.state?.address ?? '')
      draft.tagging = { ...tagging.value, campaign, ...change }
    },
    'tagging',
  )
}

/** A click as it would go out: on the first web address of the page, from its first source. */
const example = computed(() => {
  const block = page.document?.blocks.find((each) => each.shown && each.button?.address.startsWith('http'))
  const from = sources.value?.find((source) => !source.retired)
  return {
    name: block?.button?.title,
    from: from?.name,
    body: {
      address: block?.button?.address ?? 'https://your-site.example/dates',
      tags: {
        source: from?.tag ?? 'untagged',
        medium: from?.medium ?? '',
        campaign: tagging.value.campaign || (page.state?.address ?? ''),
        content: block?.key ?? 'dates',
      },
    },
  }
})
const asked = refDebounced(example, 200)
const { data: tagged } = useQuery({
  queryKey: computed(() => ['tagged', asked.value.body]),
  queryFn: () => take(api.POST('/api/tagged-address', { body: asked.value.body })),
  placeholderData: (before) => before,
})
</script>

<template>
  <section aria-labelledby="tagging-title">
    <h2 id="tagging-title">{{ $t('settings.clicksGoingOut') }}</h2>
    <FieldSwitch
      :label="$t('settings.tagThemForYourOwn')"
      :model-value="tagging.on"
      @update:model-value="set({ on: $event })"
    />
    <template v-if="tagging.on">
      <FieldText
        :label="$t('common.campaign')"
        :model-value="tagging.campaign"
        :maxlength="100"
        lazy
        :wrong="tagging.campaign ? undefined : $t('settings.giveTheCampaignAName')"
        @update:model-value="set({ campaign: $event })"
      />
      <p v-if="tagged" class="example">
        <span class="soft">{{
          $t('settings.pressedByAVisitor', {
            button: example.name ?? $t('settings.aButton'),
            source: example.from ?? $t('settings.nobodyKnowsWhere'),
          })
        }}</span>
        <code>{{ tagged.address }}</code>
        <span v-if="tagged.kept.length" class="soft">{{
          $t('settings.keepsTagsOfItsOwn', { tags: tagged.kept.join(', ') })
        }}</span>
      </p>
      <p class="soft">
        {{ $t('settings.tagsThatAnAddressHas') }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.example {
  display: grid;
  gap: 4px;
}
code {
  font-size: 0.87rem;
  overflow-wrap: anywhere;
  padding: 8px 12px;
  background: var(--sunk);
  border-left: 3px solid var(--accent);
}
</style>
