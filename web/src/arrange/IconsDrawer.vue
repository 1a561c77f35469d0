<script setup lang="ts">
import { t } from '@/i18n'
import Button from 'primevue/button'
import { computed, defineAsyncComponent, ref } from 'vue'
import { api, take, type Document, type Icon } from '@/api/client'
import type { components } from '@/api/generated/schema'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldText from '@/fields/FieldText.vue'
import ItemTools from '@/fields/ItemTools.vue'
import { moveItem } from '@/fields/reorder'
import FieldAddress from '@/kinds/FieldAddress.vue'
import { useTyped } from '@/fields/useTyped'
import { leadTo } from '@/page/leadTo'
import { newKey } from '@/page/newKey'
import { usePageStore } from '@/page/pageStore'
import { partWord } from '@/page/partWord'
import type { Lane } from '@/sourceColours'
import EditorDrawer from './EditorDrawer.vue'
import SourceClicks from './SourceClicks.vue'

const IconPicker = defineAsyncComponent(() => import('@/pictures/IconPicker.vue'))

/** The row of small profile icons: paste an address and its icon is found. */
defineProps<{ figures?: components['schemas']['BlockReading']; lanes: Lane[] }>()
const emit = defineEmits<{ close: [] }>()

const page = usePageStore()
const copy = page.opened()
const icons = computed(() => page.document?.icons)
type Icons = Document['icons']

const places = [
  { value: 'above', label: t('arrange.aboveTheBlocks') },
  { value: 'below', label: t('arrange.belowThem') },
] as const
const sizes = [
  { value: 'small', label: t('common.small') },
  { value: 'medium', label: t('common.medium') },
  { value: 'large', label: t('common.large') },
] as const
const colours = [
  { value: 'page', label: t('arrange.ofThePage') },
  { value: 'brand', label: t('arrange.eachItsOwn') },
] as const

const pasted = useTyped(`profile-address/${copy?.id}`)
const given = () => pasted.value.trim()
const wrong = ref('')
const busy = ref(false)
const picking = ref<number>()

async function add() {
  const most = page.state?.limits.icons ?? 0
  if (!given() || busy.value) return
  if ((icons.value?.items.length ?? 0) >= most) {
    wrong.value = t('arrange.thereAreAlready', { most })
    return
  }
  busy.value = true
  wrong.value = ''
  try {
    const read = await take(api.GET('/api/addresses', { params: { query: { address: given() } } }))
    copy?.change(t('arrange.addTheIconFor', { name: read.name }), (draft) => {
      draft.icons.items.push({
        key: newKey(),
        icon: { set: read.icon.set, name: read.icon.name },
        name: read.name,
        address: read.address,
      })
    })
    if (!read.known) picking.value = (icons.value?.items.length ?? 1) - 1
    pasted.value = ''
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}

function set<F extends keyof Icons>(field: F, value: Icons[F]) {
  page.change(
    t('arrange.changeTheProfileIcons', { what: partWord(field) }),
    (draft) => void (draft.icons[field] = value),
  )
}

function setItem(at: number, make: (item: Icons['items'][number]) => void, join?: string) {
  page.change(
    t('arrange.changeAProfileIcon'),
    ({ icons: { items } }) => items[at] && make(items[at]),
    join && `icons/${at}/${join}`,
  )
}

function move(at: number, by: number) {
  page.change(t('arrange.moveAProfileIcon'), (draft) => moveItem(draft.icons.items, at, by))
}

function picked(icon: Icon) {
  const at = picking.value
  picking.value = undefined
  if (at !== undefined) setItem(at, (item) => (item.icon = icon))
}
</script>

<template>
  <EditorDrawer v-if="icons" :title="$t('arrange.profileIcons')" at="icons" @close="emit('close')">
    <form class="paste" @submit.prevent="add">
      <div class="field">
        <label for="profile-address">{{ $t('arrange.addressOfAProfile') }}</label>
        <input
          id="profile-address"
          v-model="pasted"
          :placeholder="$t('arrange.pasteItTheIcon')"
          inputmode="url"
          autocapitalize="none"
          autocomplete="off"
          spellcheck="false"
        />
      </div>
      <Button type="submit" :label="$t('arrange.addProfile')" size="small" :loading="busy" />
    </form>
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <ol class="items">
      <li v-for="(item, at) in icons.items" :key="item.key">
        <FieldText
          :label="$t('arrange.called')"
          :at="`items/${item.key}/name`"
          :model-value="item.name"
          :maxlength="60"
          @update:model-value="setItem(at, (each) => (each.name = $event), 'name')"
        />
        <FieldAddress
          :label="$t('common.leadsTo')"
          :at="`items/${item.key}/address`"
          :model-value="item.address"
          :still="$t('arrange.itStillLeads')"
          @update:model-value="setItem(at, (each) => leadTo(each, $event), 'address')"
        />
        <ItemTools
          :name="item.name"
          :at="at"
          :count="icons.items.length"
          @move="move(at, $event)"
          @remove="
            page.change($t('arrange.takeOutTheIconFor', { name: item.name }), (draft) =>
              draft.icons.items.splice(at, 1),
            )
          "
        >
          <Button
            class="icon"
            :label="
              item.icon.set === 'own'
                ? $t('arrange.iconOfYourOwn')
                : $t('arrange.icon', { name: item.icon.name })
            "
            severity="secondary"
            size="small"
            @click="picking = at"
          />
        </ItemTools>
      </li>
    </ol>
    <FieldChoice
      :label="$t('arrange.place')"
      :model-value="icons.place"
      :options="places"
      @update:model-value="set('place', $event)"
    />
    <FieldChoice
      :label="$t('common.size')"
      :model-value="icons.size"
      :options="sizes"
      @update:model-value="set('size', $event)"
    />
    <FieldChoice
      :label="$t('arrange.colour')"
      :model-value="icons.colour"
      :options="colours"
      @update:model-value="set('colour', $event)"
    />
    <SourceClicks v-if="figures" :figures="figures" :lanes="lanes" />
    <IconPicker v-if="picking !== undefined" @cancel="picking = undefined" @chosen="picked" />
  </EditorDrawer>
</template>

<style scoped>
.paste {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
.paste input {
  font: inherit;
  padding: 8px 10px;
  border: 1.5px solid var(--accent);
  border-radius: 4px;
  background: var(--surface);
  color: var(--ink);
  min-width: 0;
}
.items {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 12px;
}
.items > li {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  border-radius: 6px;
}
.icon {
  margin-right: auto;
}
</style>
