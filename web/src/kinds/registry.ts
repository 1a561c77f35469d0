import {
  CalendarClock,
  CalendarDays,
  Contact,
  Download,
  HandCoins,
  Heading,
  Images,
  MailPlus,
  MapPin,
  MessageCircleQuestionMark,
  MousePointerClick,
  MoveVertical,
  Play,
  Quote,
  Rss,
  SeparatorHorizontal,
  Tag,
  TicketPercent,
  Timer,
  Type,
} from '@lucide/vue'
import type { Component } from 'vue'
import type { Block } from '@/api/client'
import { t } from '@/i18n'
import { tomorrowAtNine } from '@/fields/zonedTime'
import { newKey } from '@/page/newKey'
import type { Kind } from '@/page/blockWords'
import KindBooking from './KindBooking.vue'
import KindButton from './KindButton.vue'
import KindCode from './KindCode.vue'
import KindContact from './KindContact.vue'
import KindCountdown from './KindCountdown.vue'
import KindDates from './KindDates.vue'
import KindDivider from './KindDivider.vue'
import KindFeed from './KindFeed.vue'
import KindFile from './KindFile.vue'
import KindHeading from './KindHeading.vue'
import KindOffer from './KindOffer.vue'
import KindPayment from './KindPayment.vue'
import KindPictures from './KindPictures.vue'
import KindPlace from './KindPlace.vue'
import KindPlayer from './KindPlayer.vue'
import KindQuestions from './KindQuestions.vue'
import KindQuote from './KindQuote.vue'
import KindSignup from './KindSignup.vue'
import KindSpace from './KindSpace.vue'
import KindText from './KindText.vue'

/** What the studio knows of a kind of block: its name, its editor, and how a new one begins. */
export interface KindEntry<K extends Kind = Kind> {
  kind: K
  label: string
  icon: Component
  editor: Component
  /** Zone is that of the workspace, by whose clocks times begin. */
  make: (zone: string) => NonNullable<Block[K]>
  /** It has colours and a shape that can be its own. */
  styled?: boolean
  /** It leads nowhere, and so has no clicks to show. */
  still?: boolean
  /** A passcode can protect what it leads to; of all others everything stands on the page. */
  locks?: boolean
  /** It is a form that is open on the page: no gate can stand before it. */
  form?: boolean
}

const kind = <K extends Kind>(entry: KindEntry<K>) => entry
const somewhere = 'https://your-site.example/'

/** Every kind, in the order in which they are offered: one entry each. */
export const KINDS = [
  kind({
    kind: 'button',
    locks: true,
    label: t('common.button'),
    icon: MousePointerClick,
    editor: KindButton,
    styled: true,
    make: () => ({ title: t('kinds.newButton'), address: somewhere }),
  }),
  kind({
    kind: 'contact',
    locks: true,
    label: t('kinds.contact'),
    icon: Contact,
    editor: KindContact,
    styled: true,
    make: () => ({
      title: t('kinds.writeToMe'),
      way: 'mail',
      mailbox: 'me@your-site.example',
      icon: { set: 'signs', name: 'mail' },
    }),
  }),
  kind({
    kind: 'heading',
    label: t('kinds.heading'),
    icon: Heading,
    editor: KindHeading,
    still: true,
    make: () => ({ text: t('kinds.newHeading') }),
  }),
  kind({
    kind: 'text',
    label: t('common.text'),
    icon: Type,
    editor: KindText,
    make: () => ({ html: '<p>New text</p>' }),
  }),
  kind({
    kind: 'pictures',
    label: t('kinds.pictures'),
    icon: Images,
    editor: KindPictures,
    make: () => ({ columns: 2, gap: 8, corners: 10, lastWide: false, items: [] }),
  }),
  kind({
    kind: 'file',
    locks: true,
    label: t('kinds.file'),
    icon: Download,
    editor: KindFile,
    styled: true,
    make: () => ({ title: t('kinds.newFile'), address: somewhere, icon: { set: 'signs', name: 'download' } }),
  }),
  kind({
    kind: 'offer',
    locks: true,
    label: t('kinds.offer'),
    icon: Tag,
    editor: KindOffer,
    styled: true,
    make: () => ({ name: t('kinds.newOffer'), address: somewhere }),
  }),
  kind({
    kind: 'player',
    locks: true,
    label: t('kinds.filmOrSound'),
    icon: Play,
    editor: KindPlayer,
    make: () => ({ title: t('kinds.newFilm'), address: somewhere }),
  }),
  kind({
    kind: 'feed',
    label: t('kinds.feed'),
    icon: Rss,
    editor: KindFeed,
    styled: true,
    make: () => ({ title: '', most: 3, shown: 'rows' }),
  }),
  kind({
    kind: 'signup',
    label: t('kinds.signUp'),
    icon: MailPlus,
    editor: KindSignup,
    styled: true,
    form: true,
    make: () => ({ title: t('kinds.newSignUp'), consent: t('kinds.iMayBeWrittenTo') }),
  }),
  kind({
    kind: 'payment',
    label: t('kinds.payment'),
    icon: HandCoins,
    editor: KindPayment,
    styled: true,
    form: true,
    make: () => ({
      title: t('kinds.newPayment'),
      currency: 'EUR',
      amounts: [300, 500, 1000],
      own: true,
      word: true,
    }),
  }),
  kind({
    kind: 'booking',
    locks: true,
    label: t('kinds.booking'),
    icon: CalendarClock,
    editor: KindBooking,
    styled: true,
    make: (zone) => ({
      title: t('kinds.newBooking'),
      minutes: 60,
      notice: 24,
      ahead: 30,
      hours: {
        zone,
        weekly: [{ days: ['TU', 'TH'], from: '10:00', to: '16:00' }],
      },
    }),
  }),
  kind({
    kind: 'place',
    label: t('kinds.placeToGo'),
    icon: MapPin,
    editor: KindPlace,
    styled: true,
    make: () => ({ name: t('kinds.newPlace') }),
  }),
  kind({
    kind: 'dates',
    label: t('kinds.dates'),
    icon: CalendarDays,
    editor: KindDates,
    make: (zone) => ({
      zone,
      calendar: true,
      items: [{ key: newKey(), what: t('kinds.newDate'), from: tomorrowAtNine(zone) }],
    }),
  }),
  kind({
    kind: 'countdown',
    label: t('kinds.countdown'),
    icon: Timer,
    editor: KindCountdown,
    still: true,
    make: (zone) => ({ title: t('kinds.newCountdown'), until: tomorrowAtNine(zone), zone }),
  }),
  kind({
    kind: 'questions',
    label: t('kinds.questions'),
    icon: MessageCircleQuestionMark,
    editor: KindQuestions,
    still: true,
    make: () => ({ title: '', items: [{ asked: t('kinds.newQuestion'), answer: '' }] }),
  }),
  kind({
    kind: 'code',
    label: t('kinds.code'),
    icon: TicketPercent,
    editor: KindCode,
    make: () => ({ title: t('kinds.newCode'), letters: 'CODE' }),
  }),
  kind({
    kind: 'quote',
    label: t('kinds.quote'),
    icon: Quote,
    editor: KindQuote,
    still: true,
    make: () => ({ words: t('kinds.whatSomebodySaid') }),
  }),
  kind({
    kind: 'divider',
    label: t('kinds.divider'),
    icon: SeparatorHorizontal,
    editor: KindDivider,
    still: true,
    make: () => ({ line: 'plain' }),
  }),
  kind({
    kind: 'space',
    label: t('kinds.space'),
    icon: MoveVertical,
    editor: KindSpace,
    still: true,
    make: () => ({ height: 32 }),
  }),
] as const

export const kindOf = (block: Block) =>
  KINDS.find((each) => each.kind === block.kind) as KindEntry | undefined

/** A new block of a kind, ready to be filled. */
export function newBlock(kind: KindEntry, zone: string): Block {
  return { key: newKey(), kind: kind.kind, shown: true, [kind.kind]: kind.make(zone) }
}

/** The same block again, with keys of its own all through, so that its figures are its own. */
export function copyOf(block: Block): Block {
  const copy = structuredClone(block)
  copy.key = newKey()
  delete copy.added
  copy.pictures?.items.forEach((item) => (item.key = newKey()))
  copy.dates?.items.forEach((item) => (item.key = newKey()))
  return copy
}
