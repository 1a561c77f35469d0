import { Contact, Download, Heading, Images, MousePointerClick, MoveVertical, Quote, SeparatorHorizontal, Tag, Type } from '@lucide/vue' // prettier-ignore
import type { Component } from 'vue'
import type { Block } from '@/api/client'
import { newKey } from '@/page/newKey'
import type { Kind } from '@/page/blockWords'
import KindButton from './KindButton.vue'
import KindContact from './KindContact.vue'
import KindDivider from './KindDivider.vue'
import KindFile from './KindFile.vue'
import KindHeading from './KindHeading.vue'
import KindOffer from './KindOffer.vue'
import KindPictures from './KindPictures.vue'
import KindQuote from './KindQuote.vue'
import KindSpace from './KindSpace.vue'
import KindText from './KindText.vue'

/** What the studio knows of a kind of block: its name, its editor, and how a new one begins. */
export interface KindEntry<K extends Kind = Kind> {
  kind: K
  label: string
  icon: Component
  editor: Component
  /** Whether it has colours and a shape that can be its own. */
  styled: boolean
  /** Whether it can lead somewhere, and so has clicks to show. */
  leads: boolean
  make: () => NonNullable<Block[K]>
}

const STYLED: Kind[] = ['button', 'contact', 'file', 'offer']
const STILL: Kind[] = ['heading', 'quote', 'divider', 'space']

const entry = <K extends Kind>(
  kind: K,
  label: string,
  icon: Component,
  editor: Component,
  make: () => NonNullable<Block[K]>,
): KindEntry<K> => ({
  kind,
  label,
  icon,
  editor,
  make,
  styled: STYLED.includes(kind),
  leads: !STILL.includes(kind),
})
const somewhere = 'https://your-site.example/'

/** Every kind, in the order in which they are offered: one line each. */
export const KINDS = [
  entry('button', 'Button', MousePointerClick, KindButton, () => ({ title: 'New button', address: somewhere })),
  entry('contact', 'Contact', Contact, KindContact, () => ({ title: 'Write to me', way: 'mail', mailbox: 'me@your-site.example', icon: { set: 'signs', name: 'mail' } })),
  entry('heading', 'Heading', Heading, KindHeading, () => ({ text: 'New heading' })),
  entry('text', 'Text', Type, KindText, () => ({ html: '<p>New text</p>' })),
  entry('pictures', 'Pictures', Images, KindPictures, () => ({ columns: 2, gap: 8, corners: 10, lastWide: false, items: [] })),
  entry('file', 'File', Download, KindFile, () => ({ title: 'New file', address: somewhere, icon: { set: 'signs', name: 'download' } })),
  entry('offer', 'Offer', Tag, KindOffer, () => ({ name: 'New offer', address: somewhere })),
  entry('quote', 'Quote', Quote, KindQuote, () => ({ words: 'What somebody said' })),
  entry('divider', 'Divider', SeparatorHorizontal, KindDivider, () => ({ line: 'plain' })),
  entry('space', 'Space', MoveVertical, KindSpace, () => ({ height: 32 })),
] as const // prettier-ignore

export const kindOf = (block: Block) =>
  KINDS.find((each) => each.kind === block.kind) as KindEntry | undefined

/** A new block of a kind, ready to be filled. */
export function newBlock(kind: KindEntry): Block {
  return { key: newKey(), kind: kind.kind, shown: true, [kind.kind]: kind.make() }
}

/** The same block again, with keys of its own all through, so that its figures are its own. */
export function copyOf(block: Block): Block {
  const copy = structuredClone(block)
  copy.key = newKey()
  copy.pictures?.items.forEach((item) => (item.key = newKey()))
  return copy
}
