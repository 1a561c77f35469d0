import { describe, expect, it } from 'vitest'
import type { Document } from '@/api/client'
import { doneOf, nextOf } from './firstSteps'

const page = (of: { name?: string; picture?: object; addresses?: string[] }) =>
  ({
    header: { name: of.name ?? '', picture: of.picture },
    icons: { items: [] },
    footer: { links: [] },
    blocks: (of.addresses ?? []).map((address, i) => ({
      key: String(i),
      kind: 'button',
      shown: true,
      button: { title: '', address },
    })),
  }) as unknown as Document

const named = { name: 'Quarrow Clay', picture: {} }
const own = ['https://quarrow.example/dates']

describe('the first hour', () => {
  it.each([
    ['a new page', page({}), 0, [], 'name'],
    ['a name without a picture', page({ name: 'Quarrow Clay' }), 0, [], 'name'],
    ['no button yet', page(named), 0, [], 'addresses'],
    ['addresses of the ready-made page', page({ ...named, addresses: ['https://your-site.example/a'] }), 0, [], 'addresses'],
    ['all its own', page({ ...named, addresses: own }), 0, [], 'publish'],
    ['published', page({ ...named, addresses: own }), 1, [], 'source'],
    ['handed out', page({ ...named, addresses: own }), 1, [{}], 'visit'],
    ['seen', page({ ...named, addresses: own }), 1, [{}, { seenAt: '2026-06-01T12:00:00Z' }], undefined],
    ['seen, though it has no picture', page({ addresses: own }), 1, [{ seenAt: '2026-06-01T12:00:00Z' }], undefined],
  ])('with %s', (_, document, liveEdition, sources, next) => {
    expect(nextOf(doneOf({ document, liveEdition, sources }))).toBe(next)
  }) // prettier-ignore
})
