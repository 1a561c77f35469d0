import type { JournalView } from '@/api/client'
import { t } from '@/i18n'

/** What was done, by the operation that did it. */
const WORDS: Record<string, string> = {
  'save-draft': t('journal.edited'),
  'append-blocks': t('journal.edited'),
  'label-page': t('journal.labelled'),
  publish: t('journal.published'),
  'set-as-edited': t('journal.asEdited'),
  'change-address': t('journal.readdressed'),
  'rest-page': t('journal.rested'),
  'wake-page': t('journal.woke'),
  'delete-page': t('journal.deletedPage'),
  'keep-page': t('journal.keptPage'),
  'add-page': t('journal.addedPage'),
  'take-in-page': t('journal.addedPage'),
  'begin-takeover': t('journal.beganTakeover'),
  'end-takeover': t('journal.endedTakeover'),
  'add-source': t('journal.addedSource'),
  'change-source': t('journal.changedSource'),
  'preview-page': t('journal.letLook'),
  'close-previews': t('journal.closedLook'),
  'share-figures': t('journal.sharedFigures'),
  'close-shared-figures': t('journal.closedFigures'),
  'begin-trial': t('journal.beganTrial'),
  'end-trial': t('journal.endedTrial'),
  'choose-variant': t('journal.choseVariant'),
  'read-partner-report': t('journal.tookReport'),
  'delete-partner': t('journal.removedPartner'),
  'add-short-link': t('journal.addedLink'),
  'change-short-link': t('journal.changedLink'),
  'readdress-short-link': t('journal.changedLink'),
  'delete-short-link': t('journal.deletedLink'),
  'keep-short-link': t('journal.keptLink'),
  'change-destination': t('journal.changedDestination'),
  'change-many-destinations': t('journal.changedDestinations'),
  'undo-destination-change': t('journal.undidDestinations'),
  'merge-destination': t('journal.mergedDestination'),
  'take-destination-apart': t('journal.splitDestination'),
  'read-link-file': t('journal.tookLinks'),
  'read-link-list': t('journal.tookLinks'),
  'undo-import': t('journal.undidLinks'),
  'delete-file': t('journal.deletedFile'),
  'set-passcode': t('journal.setPasscode'),
  'begin-export': t('journal.exported'),
  'download-export': t('journal.downloaded'),
  'take-out-page': t('journal.tookPage'),
  'take-out-page-with-files': t('journal.tookPage'),
  'write-plain-files': t('journal.tookPage'),
  'take-events': t('journal.tookEvents'),
  'invite-member': t('journal.invited'),
  'take-invitation-back': t('journal.tookBack'),
  'take-invitation': t('journal.came'),
  'change-member': t('journal.changedMember'),
  'remove-member': t('journal.removedMember'),
  'leave-workspace': t('journal.left'),
  'change-workspace': t('journal.changedWorkspace'),
  'change-zone': t('journal.changedZone'),
  'add-api-token': t('journal.madeToken'),
  'end-api-token': t('journal.endedToken'),
  'add-webhook': t('journal.addedWebhook'),
  'change-webhook': t('journal.changedWebhook'),
  'delete-webhook': t('journal.deletedWebhook'),
  'renew-webhook-secret': t('journal.renewedSecret'),
}

/** What somebody did, in words; by its name where there are none. */
export function journalWords({ did, page, subject, times }: JournalView) {
  const what = WORDS[did] ?? did
  const on = page ? t('journal.on', { what, page }) : what
  const about = subject ? t('journal.about', { what: on, subject }) : on
  return times > 1 ? t('journal.times', { what: about, times }) : about
}
