import { computed } from 'vue'
import type { Block, Lead } from '@/api/client'
import { t } from '@/i18n'
import { titleOf, type Kind } from '@/page/blockWords'
import { usePageStore } from '@/page/pageStore'
import { partWord } from '@/page/partWord'

type ContentOf<K extends Kind> = NonNullable<Block[K]>

/**
 * The content of one block in its editor: what it is now, and how to change it.
 * Changes of the same setting that follow each other closely undo together.
 */
export function useContent<K extends Kind>(block: () => Block, kind: K) {
  const copy = usePageStore().opened()
  const content = computed(() => block()[kind] as ContentOf<K>)

  function set<F extends keyof ContentOf<K>>(field: F, value: ContentOf<K>[F], what = String(field)) {
    copy?.changeBlock(
      t('kinds.changeContentOf', { what: partWord(what), title: titleOf(block()) }),
      block().key,
      (changed) => void ((changed[kind] as ContentOf<K>)[field] = value),
      `${block().key}/${String(field)}`,
    )
  }

  /** Changes several settings in one step. */
  function change(what: string, make: (content: ContentOf<K>) => void, join?: string) {
    copy?.changeBlock(
      t('kinds.partOf', { what: partWord(what), title: titleOf(block()) }),
      block().key,
      (changed) => make(changed[kind] as ContentOf<K>),
      join && `${block().key}/${join}`,
    )
  }

  /** Puts a picture, an icon or an emoji before the title, in place of what stood there. */
  function setLead(lead: Lead) {
    change(t('kinds.changeWhatStandsBefore'), (content) =>
      Object.assign(content, { picture: undefined, icon: undefined, emoji: undefined, ...lead }),
    )
  }

  return { content, set, change, setLead }
}
