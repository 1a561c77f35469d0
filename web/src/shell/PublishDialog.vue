<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Dialog from 'primevue/dialog'
import { useToast } from 'primevue/usetoast'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { checkQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import AsEdited from './AsEdited.vue'
import { placeholdersOf } from '@/page/placeholders'

const visible = defineModel<boolean>('visible', { required: true })
const page = usePageStore()
const toast = useToast()
const router = useRouter()
const busy = ref(false)
const wrong = ref('')
const next = computed(() => (page.state?.liveEdition ?? 0) + 1)

/** Only what is saved can be said in words, and published. */
const settled = computed(() => page.saving === 'saved')

watch(visible, (now) => {
  wrong.value = ''
  endsLinks.value = false
  // It says what is live by now, and not what was when the tab was opened.
  if (now) void page.save().then(page.refresh)
})

/** What the page check finds wrong beside the addresses that are listed here. */
const { data: check } = useQuery({
  ...checkQuery(
    () => page.state?.id ?? '',
    () => page.state?.revision,
  ),
  enabled: visible,
})
const found = computed(
  () =>
    check.value?.findings.filter(({ weight, kind }) => weight === 'wrong' && kind !== 'placeholder') ?? [],
)
const faults = computed(() => found.value.length)
/** Of several faults the first are named: the check lists all. */
const named = computed(() => found.value.slice(0, 3))

/** Whether something is taken off the page: only then is there a choice. */
const takesOff = computed(() => page.state?.changes.some(({ ends }) => ends) ?? false)
const endsLinks = ref(false)

/** What would lead visitors to a place that is nobody's. */
const placeholders = computed(() => (page.document ? placeholdersOf(page.document) : []))

function fillIn(row: string) {
  visible.value = false
  void router.push({ name: 'arrange', params: { page: page.state?.id }, query: { open: row } })
}

function leaveThem() {
  const all = placeholders.value
  page.change(t('shell.hideWhatLeads'), (draft) => all.forEach(({ leave }) => leave(draft)))
}

async function publish() {
  if (busy.value) return
  busy.value = true
  wrong.value = ''
  try {
    await page.publish(takesOff.value && endsLinks.value)
    visible.value = false
    toast.add({
      severity: 'success',
      summary: t('shell.editionIsLive', { edition: page.state?.liveEdition }),
      life: 3000,
    })
  } catch (error) {
    wrong.value = (error as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    :header="page.state?.asEdited ? $t('shell.asEdited') : $t('shell.publishEdition', { edition: next })"
    class="publish-dialog"
    :style="{ width: '32rem' }"
    :breakpoints="{ '720px': '94vw' }"
  >
    <p v-if="!settled" class="soft" role="status">{{ page.problem || $t('shell.savingTheLastChange') }}</p>
    <template v-else>
      <p class="soft">
        {{ page.state?.changes.length ? $t('shell.thisIsWhatVisitorsWill') : $t('shell.visitorsSeeItAll') }}
      </p>
      <ul class="changes">
        <li v-for="(change, i) in page.state?.changes" :key="i">{{ change.sentence }}</li>
      </ul>
    </template>
    <p v-if="settled && !page.document?.header.name.trim()" class="unnamed">
      {{ $t('shell.pageHasNoName', { address: page.state?.address }) }}
      <button
        class="as-link"
        type="button"
        :aria-label="$t('shell.fillInPlace', { name: $t('common.name') })"
        @click="fillIn('header')"
      >
        {{ $t('shell.fillIn') }}
      </button>
    </p>
    <section v-if="settled && placeholders.length" class="placeholders" aria-labelledby="placeholders-title">
      <h2 id="placeholders-title">
        {{ $t('shell.placeholdersLead', placeholders.length) }}
      </h2>
      <ul>
        <li v-for="(each, i) in placeholders" :key="i">
          <span>{{ each.name }}</span>
          <button
            class="as-link"
            type="button"
            :aria-label="$t('shell.fillInPlace', { name: each.name })"
            @click="fillIn(each.row)"
          >
            {{ $t('shell.fillIn') }}
          </button>
        </li>
      </ul>
      <Button size="small" severity="secondary" :label="$t('shell.hideThese')" @click="leaveThem" />
    </section>
    <ul v-if="settled && faults" class="found" :aria-label="$t('shell.checkFinds')">
      <li v-for="(each, i) in named" :key="i">{{ each.name }}: {{ each.says }}</li>
    </ul>
    <p v-if="settled && faults" class="faults">
      <RouterLink
        class="more"
        :to="{ name: 'check', params: { page: page.state?.id } }"
        @click="visible = false"
        >{{ $t('shell.checkFound', { faults: t('check.faults', faults) }) }}</RouterLink
      >
    </p>
    <div v-if="settled && takesOff" class="ends">
      <Checkbox v-model="endsLinks" input-id="ends-links" binary aria-describedby="ends-links-says" />
      <label for="ends-links">{{ $t('shell.whatIsTakenOffStops') }}</label>
      <p id="ends-links-says" class="soft">
        {{ $t('shell.otherwiseItStillLeads') }}
      </p>
    </div>
    <AsEdited class="as-edited" />
    <p v-if="wrong" class="notice" role="alert">{{ wrong }}</p>
    <template #footer>
      <Button :label="$t('shell.notYet')" severity="secondary" text @click="visible = false" />
      <Button
        :label="$t('shell.publishNow')"
        :loading="busy"
        :disabled="!settled || page.state?.changes.length === 0"
        autofocus
        @click="publish"
      />
    </template>
  </Dialog>
</template>

<style scoped>
.faults {
  margin: 6px 0 0;
}
.found {
  margin: 14px 0 0;
  padding-left: 20px;
}
.as-edited {
  margin-top: 18px;
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
.unnamed {
  margin: 16px 0 0;
}
.placeholders {
  display: grid;
  gap: 8px;
  justify-items: start;
  margin-top: 16px;
  padding: 12px;
  border: 1px solid var(--amber);
  border-radius: 6px;
  background: var(--amber-soft);
}
.placeholders h2 {
  font-size: 1rem;
}
.placeholders ul {
  margin: 0;
  padding-left: 20px;
  max-height: 24vh;
  overflow: auto;
  width: 100%;
}
.placeholders li span {
  margin-right: 8px;
}
.ends {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 10px;
  align-items: center;
  margin-top: 16px;
  padding-top: 12px;
  border-top: 1px solid var(--line);
}
.ends p {
  grid-column: 2;
  margin: 0;
}
.changes {
  margin: 10px 0 0;
  padding-left: 20px;
  display: grid;
  gap: 6px;
  max-height: 50vh;
  overflow: auto;
}
</style>
