import type { DomainView } from '@/api/client'
import { t } from '@/i18n'
import { dayHere } from '@/shell/moments'

/** How far a domain is, in a word or two. */
export function stateWords({ state, doubted }: DomainView) {
  switch (state) {
    case 'in_use':
      return doubted ? t('domains.inDoubt') : t('domains.inUse')
    case 'lost':
      return t('domains.lost')
    case 'certifying':
      return t('domains.nearlyThere')
    default:
      return t('domains.notYet')
  }
}

/** One thing that has to be so, whether it is, and what to say of it. */
export interface Step {
  what: string
  state: 'done' | 'waits' | 'wrong'
  says: string
}

const proof = ({ state, found, taken }: DomainView): Step => {
  const what = t('domains.itIsYours')
  if (state !== 'unproven') return { what, state: 'done', says: t('domains.proven') }
  if (taken) return { what, state: 'wrong', says: t('domains.takenByAnother') }
  if (found.proof === 'no' && found.texts.length)
    return { what, state: 'wrong', says: t('domains.otherText', { text: found.texts[0] ?? '' }) }
  return { what, state: 'waits', says: found.problem ?? t('domains.noProofYet') }
}

const points = ({ found, state, doubted, entries }: DomainView): Step => {
  const what = t('domains.itLeadsHere')
  if (found.points === 'yes') return { what, state: 'done', says: t('domains.leadsHere') }
  const value = entries.find(({ type }) => type === 'CNAME')?.value
  if (found.alias && value)
    return { what, state: 'wrong', says: t('domains.wrongAlias', { alias: found.alias, value }) }
  if (found.elsewhere.length)
    return { what, state: 'wrong', says: t('domains.leadsElsewhere', { to: found.elsewhere.join(', ') }) }
  const says = found.points === 'unknown' ? found.problem : undefined
  return {
    what,
    state: state === 'lost' || doubted ? 'wrong' : 'waits',
    says: says ?? t('domains.leadsNowhere'),
  }
}

const certificate = ({ state, certificateUntil, refusedBecause }: DomainView): Step => {
  const what = t('domains.certificate')
  const holds = certificateUntil && new Date(certificateUntil) > new Date()
  if (refusedBecause && !holds)
    return { what, state: 'wrong', says: t('domains.refused', { why: refusedBecause }) }
  if (holds)
    return { what, state: 'done', says: t('domains.certifiedUntil', { day: dayHere(certificateUntil) }) }
  return {
    what,
    state: 'waits',
    says: state === 'certifying' ? t('domains.beingIssued') : t('domains.issuedThen'),
  }
}

/** What has to be so until a domain is in use. */
export const stepsOf = (domain: DomainView): Step[] => [proof(domain), points(domain), certificate(domain)]
