import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import type { JournalView } from '@/api/client'
import { journalWords } from './journalWords'

const entry = (did: string, more: Partial<JournalView> = {}) =>
  journalWords({ id: '', who: 'ilse@quarrow.example', did, first: '', last: '', times: 1, ...more })

test('an entry says what was done, to what, and how often', () => {
  expect(entry('publish', { page: 'Quarrow Clay', subject: '4' })).toBe('Published, Quarrow Clay: 4')
  expect(entry('save-draft', { page: 'Quarrow Clay', times: 12 })).toBe('Edited, Quarrow Clay (12 times)')
  expect(entry('invite-member', { subject: 'rolf@quarrow.example' })).toBe('Invited: rolf@quarrow.example')
})

test('there are words for everything that is noted', () => {
  const noted = /FieldsSeq\(`([^`]+)`/.exec(readFileSync('../internal/studio/journal.go', 'utf8'))![1]!
  for (const did of noted.trim().split(/\s+/)) expect(entry(did), did).not.toBe(did)
})
