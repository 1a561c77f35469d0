<script setup lang="ts">
import ToolButton from '@/fields/ToolButton.vue'
import { t } from '@/i18n'
import { Trash2 } from '@lucide/vue'
import Button from 'primevue/button'
import { computed } from 'vue'
import FieldText from '@/fields/FieldText.vue'
import FieldAddress from '@/kinds/FieldAddress.vue'
import { leadTo } from '@/page/leadTo'
import { newKey } from '@/page/newKey'
import { usePageStore } from '@/page/pageStore'
import EditorDrawer from './EditorDrawer.vue'

/** The end of the page: a text and small links. */
const emit = defineEmits<{ close: [] }>()
const page = usePageStore()
const footer = computed(() => page.document?.footer)

function setLink(at: number, field: 'title' | 'address', value: string) {
  page.change(
    t('arrange.changeALink'),
    (draft) => {
      const link = draft.footer.links[at]
      if (link && field === 'address') leadTo(link, value)
      else if (link) link[field] = value
    },
    `footer/${at}/${field}`,
  )
}
</script>

<template>
  <EditorDrawer v-if="footer" :title="$t('arrange.endOfThePage')" at="footer" @close="emit('close')">
    <FieldText
      :label="$t('common.text')"
      at="text"
      :model-value="footer.text"
      :maxlength="300"
      :lines="2"
      @update:model-value="
        page.change($t('arrange.changeTheText'), (draft) => void (draft.footer.text = $event), 'footer/text')
      "
    />
    <div v-for="(link, at) in footer.links" :key="link.key" class="link">
      <FieldText
        :label="$t('arrange.linkNumber', { n: at + 1 })"
        :at="`links/${link.key}/title`"
        :model-value="link.title"
        :maxlength="60"
        @update:model-value="setLink(at, 'title', $event)"
      />
      <FieldAddress
        :label="$t('common.leadsTo')"
        :at="`links/${link.key}/address`"
        :model-value="link.address"
        :still="$t('arrange.itStillLeads')"
        @update:model-value="setLink(at, 'address', $event)"
      />
      <ToolButton
        :icon="Trash2"
        :label="$t('arrange.takeOut', { title: link.title })"
        @click="page.change($t('arrange.takeALinkOut'), (draft) => draft.footer.links.splice(at, 1))"
      />
    </div>
    <Button
      v-if="footer.links.length < (page.state?.limits.footerLinks ?? 0)"
      :label="$t('arrange.addASmallLink')"
      severity="secondary"
      size="small"
      @click="
        page.change($t('arrange.addASmallLink'), (draft) =>
          draft.footer.links.push({
            key: newKey(),
            title: $t('arrange.privacy'),
            address: 'https://your-site.example/privacy',
          }),
        )
      "
    />
  </EditorDrawer>
</template>

<style scoped>
.link {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
  justify-items: stretch;
}
.link .tool {
  justify-self: end;
}
</style>
