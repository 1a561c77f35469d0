import { describe, expect, it } from 'vitest'
import type { Block } from '@/api/client'
import { copyOf, KINDS, kindOf, newBlock, type KindEntry } from '@/kinds/registry'
import { canRename, rename, titleOf } from './blockWords'

const fresh = (kind: string) =>
  newBlock(KINDS.find((each) => each.kind === kind) as unknown as KindEntry, 'UTC') as Block

describe('what a block is called', () => {
  it('is its title where it has one, and what is in it where not', () => {
    expect(KINDS.map((kind) => titleOf(fresh(kind.kind)))).toEqual([
      'New button', 'Write to me', 'New heading', 'New text', 'pictures', 'New file', 'New offer', 'New film', 'feed', 'Letters from me', 'A tip for me', 'Ask me for a time', 'New place', 'New date',
      'It begins in', 'What people ask', 'A discount for you', 'What somebody said', 'divider', 'space',
    ]) // prettier-ignore
    const pictures = fresh('pictures')
    pictures.pictures?.items.push({ key: 'aaaa', alt: '' }, { key: 'bbbb', alt: 'A bowl' })
    expect(titleOf(pictures)).toBe('A bowl')
    expect(titleOf(undefined)).toBe('')
  })

  it('is changed where it stands, for kinds with a title on one line', () => {
    expect(KINDS.filter((kind) => canRename(fresh(kind.kind))).map((kind) => kind.kind)).toEqual([
      'button', 'contact', 'heading', 'file', 'offer', 'player', 'feed', 'signup', 'payment', 'booking', 'place', 'countdown', 'questions', 'code',
    ]) // prettier-ignore
    const file = fresh('file')
    file.file!.name = 'recipes.pdf'
    rename(file, 'Recipes')
    expect([file.file?.title, file.file?.name]).toEqual(['Recipes', 'recipes.pdf'])
  })
})

describe('a kind of block', () => {
  it('is found for every block and makes one of itself alone', () => {
    for (const kind of KINDS) {
      const block = fresh(kind.kind)
      expect(kindOf(block)?.label).toBe(kind.label)
      expect(Object.keys(block).sort()).toEqual(['key', 'kind', kind.kind, 'shown'].sort())
      expect(block.key).toMatch(/^[a-z2-7]{8}$/)
    }
  })

  it('is copied with all it has, under keys of its own', () => {
    const block = fresh('pictures')
    block.pictures?.items.push({ key: 'aaaa', alt: 'A bowl' })
    const copy = copyOf(block)
    expect(copy.key).not.toBe(block.key)
    expect(copy.pictures?.items[0]?.key).not.toBe('aaaa')
    expect(copy.pictures?.items[0]?.alt).toBe('A bowl')
    expect(block.pictures?.items[0]?.key).toBe('aaaa')
  })
})
