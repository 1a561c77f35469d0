// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import PrimeVue from 'primevue/config'
import { describe, expect, it } from 'vitest'
import { i18n } from '@/i18n'
import FieldChoice from './FieldChoice.vue'
import FieldColour from './FieldColour.vue'
import FieldRange from './FieldRange.vue'
import FieldText from './FieldText.vue'
import { moveItem } from './reorder'
import WindowRows from './WindowRows.vue'

const global = { plugins: [PrimeVue, i18n] }

describe('a field that is typed into', () => {
  const field = (props: object) =>
    mount(FieldText, {
      props: { label: 'Title', modelValue: 'Dates', ...props },
      global,
      attachTo: document.body,
    })

  it('sends what is typed at once', async () => {
    const title = field({})
    await title.get('input').setValue('Kiln dates')
    expect(title.emitted('update:modelValue')).toEqual([['Kiln dates']])
  })

  it('never lets what comes back overwrite what is being typed', async () => {
    const title = field({})
    await title.get('input').trigger('focus')
    await title.get('input').setValue('Kiln dates ')
    await title.setProps({ modelValue: 'Kiln' })
    expect(title.get('input').element.value).toBe('Kiln dates ')
    await title.setProps({ modelValue: 'Kiln dates' })
    await title.get('input').trigger('blur')
    expect(title.get('input').element.value, 'left, it shows what was kept').toBe('Kiln dates')
  })

  it('shows what changes elsewhere while it is not in use', async () => {
    const title = field({})
    await title.setProps({ modelValue: 'Brought back' })
    expect(title.get('input').element.value).toBe('Brought back')
  })

  it('waits until it is left where what is typed is nothing before it is whole', async () => {
    const address = field({ lazy: true, inputmode: 'url' })
    await address.get('input').trigger('focus')
    await address.get('input').setValue('kiln.exam')
    expect(address.emitted('update:modelValue')).toBeUndefined()
    await address.get('input').setValue('kiln.example')
    await address.get('input').trigger('blur')
    expect(address.emitted('update:modelValue')).toEqual([['kiln.example']])
    await address.setProps({ modelValue: 'kiln.example' })
    await address.get('input').trigger('focus')
    await address.get('input').trigger('blur')
    expect(address.emitted('update:modelValue'), 'nothing changed').toHaveLength(1)
  })

  it('counts characters, not bytes, from where it is told to', async () => {
    const line = field({ maxlength: 160, countFrom: 80, modelValue: 'x'.repeat(79) })
    expect(line.text()).not.toContain('of 160')
    await line.setProps({ modelValue: '🏺'.repeat(80) })
    expect(line.text()).toContain('80 of 160')
  })

  it('says what is wrong in place of its hint', async () => {
    const title = field({ hint: 'A word at the end.' })
    expect(title.text()).toContain('A word at the end.')
    await title.setProps({ wrong: 'Too long.' })
    expect(title.get('[role=alert]').text()).toBe('Too long.')
    expect(title.text()).not.toContain('A word at the end.')
  })
})

describe('a colour', () => {
  const figure = {
    where: 'text',
    description: 'Text',
    ratio: 2.31,
    need: 4.5,
    passes: false,
    better: '#767676',
  }
  const colour = (props: object) =>
    mount(FieldColour, { props: { label: 'Text', modelValue: '#999999', ...props }, global })

  it('is taken as a whole code, with or without the sign, short or long', async () => {
    const text = colour({})
    const code = text.get('input.code')
    for (const typed of ['#', '#12', '#12345', 'red', '#ggg']) {
      await code.setValue(typed)
      expect(code.attributes('aria-invalid')).toBe('true')
    }
    expect(text.emitted('update:modelValue')).toBeUndefined()
    for (const typed of ['abc', '#0B5D6C']) await code.setValue(typed)
    expect(text.emitted('update:modelValue')).toEqual([['#aabbcc'], ['#0b5d6c']])
  })

  it('says its contrast and offers the nearest that passes at one press', async () => {
    const text = colour({ figure })
    expect(text.text()).toContain('2.31 : 1, needs 4.5')
    await text.get('.repair').trigger('click')
    expect(text.emitted('update:modelValue')).toEqual([['#767676']])
    await text.setProps({ figure: { ...figure, ratio: 4.54, passes: true, better: undefined } })
    expect(text.find('.repair').exists()).toBe(false)
    expect(text.text()).toContain('4.54 : 1')
  })

  it('offers the colours out of one’s own pictures', async () => {
    const text = colour({ palette: ['#8a4b2a', '#2f5d62'] })
    await text.findAll('.palette button')[1]?.trigger('click')
    expect(text.emitted('update:modelValue')).toEqual([['#2f5d62']])
  })
})

describe('a choice and a range', () => {
  it('are worked as radio buttons and a slider', async () => {
    const options = [
      { value: 'soft', label: 'Soft' },
      { value: 'hard', label: 'Hard' },
    ]
    const choice = mount(FieldChoice, { props: { label: 'Shadow', modelValue: 'soft', options }, global })
    expect(choice.findAll('input').map((each) => each.element.checked)).toEqual([true, false])
    await choice.findAll('input')[1]?.setValue(true)
    expect(choice.emitted('update:modelValue')).toEqual([['hard']])

    const range = mount(FieldRange, {
      props: { label: 'Blur', modelValue: 4, min: 0, max: 40, unit: ' px' },
      global,
    })
    expect(range.text()).toContain('4 px')
    await range.get('input').setValue('12')
    expect(range.emitted('update:modelValue')).toEqual([[12]])
  })

  it('move an item of a list within it', () => {
    const list = ['a', 'b', 'c']
    moveItem(list, 2, -1)
    expect(list).toEqual(['a', 'c', 'b'])
    moveItem(list, 0, 1)
    expect(list).toEqual(['c', 'a', 'b'])
  })
})

describe('windows', () => {
  it('keep a row that was begun until something is typed into it', async () => {
    const windows = mount(WindowRows, { props: { modelValue: [], always: 'Always.' }, global })
    expect(windows.text()).toContain('Always.')
    await windows.get('button').trigger('click')
    expect(windows.emitted('update:modelValue'), 'an empty one says nothing').toBeUndefined()
    await windows.setProps({ modelValue: [] })
    expect(windows.findAll('input')).toHaveLength(2)
    const [from] = windows.findAll('input')
    from!.element.value = '2026-12-01T09:00'
    await from!.trigger('change')
    expect(windows.emitted('update:modelValue')).toEqual([[[{ from: '2026-12-01T09:00' }]]])
    await windows.setProps({ modelValue: [{ from: '2026-12-01T09:00' }] })
    expect(windows.findAll('input'), 'and is that row now').toHaveLength(2)
  })
})
