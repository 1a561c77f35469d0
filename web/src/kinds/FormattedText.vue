<script setup lang="ts">
import { Bold, Italic, Link2, Link2Off } from '@lucide/vue'
import { Editor, Extension } from '@tiptap/core'
import StarterKit from '@tiptap/starter-kit'
import { onBeforeUnmount, onMounted, ref, shallowRef, useId, useTemplateRef, watch } from 'vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { usePageStore } from '@/page/pageStore'

/** A text with bold, italic and links. What the server makes of it is what is kept. */
const props = defineProps<{ label: string; modelValue: string }>()
const emit = defineEmits<{ 'update:modelValue': [html: string] }>()

const id = useId()
const page = usePageStore()
const place = useTemplateRef<HTMLElement>('place')
const editor = shallowRef<Editor>()
const marks = ref({ bold: false, italic: false, link: false })
const linking = ref<string>()
const wrong = ref('')

/** Links keep the destination that the server knows them by. */
const Destinations = Extension.create({
  name: 'destinations',
  addGlobalAttributes: () => [{ types: ['link'], attributes: { 'data-destination': { default: null } } }],
})

onMounted(() => {
  if (!place.value) return
  editor.value = new Editor({
    element: place.value,
    content: props.modelValue,
    injectCSS: false,
    extensions: [
      StarterKit.configure({
        heading: false, blockquote: false, bulletList: false, orderedList: false, listItem: false, listKeymap: false,
        code: false, codeBlock: false, horizontalRule: false, strike: false, underline: false,
        link: { openOnClick: false, autolink: false, protocols: ['tel', 'sms', 'mailto'] },
      }),
      Destinations,
    ],
    editorProps: { attributes: { 'aria-labelledby': `${id}-label`, role: 'textbox', 'aria-multiline': 'true' } },
    onUpdate: ({ editor: changed }) => emit('update:modelValue', changed.getHTML()),
    onTransaction: ({ editor: changed }) => {
      marks.value = {
        bold: changed.isActive('bold'), italic: changed.isActive('italic'), link: changed.isActive('link'),
      }
    },
  }) // prettier-ignore
})
onBeforeUnmount(() => editor.value?.destroy())

watch(
  () => props.modelValue,
  (now) => {
    if (editor.value && !editor.value.isFocused && editor.value.getHTML() !== now)
      editor.value.commands.setContent(now, { emitUpdate: false })
  },
)

function link() {
  wrong.value = ''
  linking.value = (editor.value?.getAttributes('link').href as string | undefined) ?? ''
}

const typedAnew = { 'data-destination': null }

async function keepLink() {
  try {
    const href = await page.readAddress(linking.value ?? '')
    editor.value
      ?.chain()
      .focus()
      .extendMarkRange('link')
      .setLink({ href, ...typedAnew })
      .run()
    linking.value = undefined
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <div class="field">
    <span :id="`${id}-label`" class="label">{{ label }}</span>
    <div class="box">
      <div class="tools" role="toolbar" :aria-label="$t('kinds.format')">
        <ToolButton
          :icon="Bold"
          :label="$t('kinds.bold')"
          :aria-pressed="marks.bold"
          @click="editor?.chain().focus().toggleBold().run()"
        />
        <ToolButton
          :icon="Italic"
          :label="$t('kinds.italic')"
          :aria-pressed="marks.italic"
          @click="editor?.chain().focus().toggleItalic().run()"
        />
        <ToolButton :icon="Link2" :label="$t('kinds.link')" :aria-pressed="marks.link" @click="link" />
        <ToolButton
          v-if="marks.link"
          :icon="Link2Off"
          :label="$t('kinds.takeTheLinkAway')"
          @click="editor?.chain().focus().extendMarkRange('link').unsetLink().run()"
        />
      </div>
      <form v-if="linking !== undefined" class="linking" @submit.prevent="keepLink">
        <input
          v-model="linking"
          :aria-label="$t('kinds.theMarkedWordsLeadTo')"
          placeholder="https://"
          spellcheck="false"
          autocapitalize="none"
          @keydown.esc.stop="linking = undefined"
        />
        <button class="keep" type="submit">{{ $t('kinds.link') }}</button>
      </form>
      <WrongText :text="wrong" />
      <div ref="place" class="text"></div>
    </div>
  </div>
</template>

<style scoped>
.label {
  font-weight: 600;
  font-size: 0.9rem;
}
.box {
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  background: var(--surface);
}
.tools {
  display: flex;
  gap: 2px;
  padding: 3px;
  border-bottom: 1px solid var(--line);
}
.tool[aria-pressed='true'] {
  background: var(--accent-soft);
  color: var(--accent);
}
.linking {
  display: flex;
  gap: 6px;
  padding: 6px;
  border-bottom: 1px solid var(--line);
}
.linking input {
  flex: 1;
  min-width: 0;
  font: inherit;
  padding: 4px 8px;
  border: 1px solid var(--line-strong);
  border-radius: 3px;
  background: var(--surface);
  color: var(--ink);
}
.keep {
  border: 0;
  border-radius: 3px;
  background: var(--accent);
  color: var(--surface);
  padding: 4px 12px;
  cursor: pointer;
}
.wrong {
  padding: 4px 8px;
}
.text :deep(.ProseMirror) {
  min-height: 7rem;
  padding: 8px 12px;
  outline: none;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.text :deep(.ProseMirror-focused) {
  box-shadow: inset 0 0 0 2px var(--accent);
}
.text :deep(p) {
  margin: 0 0 0.6em;
}
</style>
