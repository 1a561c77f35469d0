import { describe, expect, it } from 'vitest'
import type { ListedLink } from '@/api/client'
import { labelsOf, matching, stateWords } from './shortLinks'

const link = (name: string, labels: string[], past: string[] = []) =>
  ({
    shortAddress: `https://jundle.example/${name}`,
    pastAddresses: past,
    link: { name, destination: `https://kiln.example/${name}`, labels },
  }) as unknown as ListedLink

const links = [link('dates', ['letter']), link('seconds', ['sale', 'letter'], ['autumn']), link('film', [])]

describe('finding a link on the Shelf', () => {
  it('offers the labels that are used most first', () => {
    expect(labelsOf(links)).toEqual(['letter', 'sale'])
  })

  it('finds it by any address it ever had', () => {
    expect(matching(links, undefined, 'AUTUMN').map(({ link }) => link.name)).toEqual(['seconds'])
  })

  it('looks only at those that bear the label', () => {
    expect(matching(links, 'letter', '').map(({ link }) => link.name)).toEqual(['dates', 'seconds'])
    expect(matching(links, 'sale', 'dates')).toEqual([])
  })
})

it('says in which state a link is, and until when', () => {
  expect(stateWords({ state: 'in force' })).toBe('in force')
  expect(stateWords({ state: 'over' })).toBe('over')
  expect(stateWords({ state: 'before', changesAt: '2026-12-01T09:00:00Z' }, 'Europe/Lisbon')).toBe(
    'from 1 Dec, 09:00',
  )
  expect(stateWords({ state: 'in force', changesAt: '2026-12-01T09:00:00Z' }, 'Asia/Kolkata')).toBe(
    'in force until 1 Dec, 14:30',
  )
})
