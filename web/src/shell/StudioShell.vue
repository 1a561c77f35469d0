<script setup lang="ts">
import { BarChart3, Library, LogOut, MailPlus, MapPin, Palette, Rows3, Settings2 } from '@lucide/vue'
import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useCssVar, useElementSize, useEventListener, useSessionStorage } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import ErasureNotice from '@/account/ErasureNotice.vue'
import SignInAgain from '@/account/SignInAgain.vue'
import { pagesQuery } from '@/api/queries'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { anyUnsaved, saveAll } from '@/saving/editing'
import SavingNotices from '@/saving/SavingNotices.vue'
import { useSession } from '@/session'
import { useMay } from '@/team/useMay'
import StudioMark from './StudioMark.vue'
import PageSwitcher from './PageSwitcher.vue'
import TopLine from './TopLine.vue'
import { useBack } from './useBack'
import { useLiveFigures } from './useLiveFigures'

const route = useRoute()
const router = useRouter()
const session = useSession()
const page = usePageStore()
const may = useMay()
const queries = useQueryClient()

const crown = useTemplateRef<HTMLElement>('crown')
const { height: crownHeight } = useElementSize(crown, undefined, { box: 'border-box' })
// The document keeps clear of it whatever is scrolled to.
const crownVar = useCssVar('--crown', document.documentElement)
watch(crownHeight, (height) => (crownVar.value = `${height}px`), { immediate: true })
/** The page of the view, or the one that was open last in a view that is of all pages. */
const last = useSessionStorage('jundle-page', '')
const { data: pages } = useQuery({ ...pagesQuery(), enabled: () => !!session.me?.workspace })
const pageOfView = computed(() => (typeof route.params.page === 'string' ? route.params.page : undefined))
const pageId = computed(
  () => pageOfView.value ?? (route.name === 'home' ? undefined : last.value || pages.value?.[0]?.id),
)
const views = computed(() =>
  [
    { name: 'arrange', label: t('shell.arrange'), icon: Rows3, may: may.edit.value },
    { name: 'look', label: t('common.look'), icon: Palette, may: may.edit.value },
    { name: 'sources', label: t('shell.sources'), icon: MapPin, may: may.edit.value },
    { name: 'readings', label: t('shell.readings'), icon: BarChart3, may: true },
    { name: 'shelf', label: t('shell.shelf'), icon: Library, shared: true, may: may.editAll.value },
    {
      name: 'sign-ups',
      label: t('signUps.signUps'),
      icon: MailPlus,
      shared: true,
      may: may.editAll.value,
    },
    { name: 'settings', label: t('shell.settings'), icon: Settings2, shared: true, may: true },
  ].filter((view) => view.may),
)

/** Screens that belong to a view of the rail. */
const WITHIN: Record<string, string> = {
  destinations: 'shelf',
  source: 'sources',
  summary: 'readings',
  trials: 'readings',
  partners: 'readings',
  'one-button': 'readings',
  'one-source': 'readings',
  privacy: 'settings',
  account: 'settings',
  members: 'settings',
  journal: 'settings',
  domains: 'settings',
  income: 'settings',
  bookings: 'settings',
  programs: 'settings',
  webhook: 'settings',
}

/** Goes on with another page, in the view that is open. */
function choose(id: string) {
  const name = String(route.name ?? 'arrange')
  // One source or button of a page is none of another's.
  if (pageOfView.value) void router.push({ name: WITHIN[name] ?? name, params: { page: id } })
  else last.value = id
}

useLiveFigures(pageOfView)

watch(
  pageId,
  async (id) => {
    if (!id) return
    last.value = id
    // Whoever reads figures sees nothing of the working copy.
    if (!may.edit.value) return
    try {
      await page.open(id)
    } catch {
      last.value = ''
      if (pageOfView.value) await router.replace({ name: 'home' })
    }
  },
  { immediate: true },
)
watch(
  () => session.me,
  (me) => {
    if (me) return
    // Nothing of one account may be left for the next.
    queries.clear()
    page.forget()
    last.value = ''
    void router.push({ name: 'sign-in', query: { then: route.fullPath } })
  },
)
useBack()
useEventListener('beforeunload', (event) => {
  if (anyUnsaved()) event.preventDefault()
})
// Other tabs, other devices and helpers may have changed the page meanwhile.
useEventListener(window, 'focus', () => may.edit.value && void page.refresh().catch(() => {}))

async function signOut() {
  await saveAll()
  await session.signOut()
}
</script>

<template>
  <div class="shell">
    <nav class="rail" :aria-label="$t('shell.views')">
      <RouterLink class="home" :to="{ name: 'home' }" :aria-label="$t('shell.jundleToTheFirstPage')"
        ><StudioMark :size="30"
      /></RouterLink>
      <template v-if="pageId">
        <RouterLink
          v-for="view in views"
          :key="view.name"
          class="stop"
          :class="{
            apart: view.name === 'shelf',
            'router-link-active': WITHIN[String(route.name)] === view.name,
          }"
          :to="{ name: view.name, params: view.shared ? {} : { page: pageId } }"
        >
          <component :is="view.icon" aria-hidden="true" /><span>{{ view.label }}</span>
        </RouterLink>
      </template>
      <button class="stop out" type="button" @click="signOut">
        <LogOut aria-hidden="true" /><span>{{ $t('shell.signOut') }}</span>
      </button>
    </nav>
    <div v-if="pageId" ref="crown" class="crown">
      <TopLine v-if="may.edit.value" @choose="choose" />
      <header v-else class="reading">
        <PageSwitcher :open="pageId" @choose="choose" />
        <p class="soft">{{ $t('team.youReadFigures') }}</p>
      </header>
      <SavingNotices />
      <ErasureNotice />
    </div>
    <main class="main">
      <div v-if="page.missing" class="view">
        <p class="notice" role="alert">
          <span>{{ $t('shell.thePageOpensAsSoon', { reason: page.missing }) }}</span>
        </p>
      </div>
      <RouterView :key="pageOfView" />
    </main>
    <SignInAgain />
  </div>
</template>

<style scoped>
.shell {
  display: grid;
  grid-template: auto 1fr / var(--rail) minmax(0, 1fr);
  min-height: 100dvh;
}
.rail {
  grid-row: 1 / -1;
  position: sticky;
  top: 0;
  height: 100dvh;
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 2px;
  padding: 14px 8px;
  border-right: 1px solid var(--line);
  background: var(--surface);
  z-index: 5;
}
.crown {
  grid-column: 2;
  position: sticky;
  top: 0;
  z-index: 10;
  min-width: 0;
}
.reading {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: var(--top);
  padding: 8px 28px;
  border-bottom: 1px solid var(--line);
  background: var(--surface);
}
.home {
  display: grid;
  place-items: center;
  padding: 2px 0 16px;
}
.stop {
  display: grid;
  justify-items: center;
  gap: 4px;
  padding: 9px 2px;
  border: 0;
  border-radius: 4px;
  background: none;
  color: var(--ink-soft);
  font-size: 0.8rem;
  font-weight: 500;
  text-decoration: none;
  cursor: pointer;
}
.stop svg {
  width: 20px;
  height: 20px;
}
.stop:hover {
  background: var(--sunk);
  color: var(--ink);
}
.stop.router-link-active {
  background: var(--accent-soft);
  color: var(--accent);
  font-weight: 650;
}
.apart {
  margin-top: 13px;
  position: relative;
}
.apart::before {
  content: '';
  position: absolute;
  inset: -7px 8px auto;
  border-top: 1px solid var(--line);
}
.out {
  margin-top: auto;
}
.main {
  min-width: 0;
  grid-column: 2;
}
@media (max-width: 720px) {
  .shell {
    grid-template: auto 1fr / minmax(0, 1fr);
  }
  .crown {
    grid-column: 1;
  }
  .main {
    grid-column: 1;
    padding-bottom: 64px;
  }
  .rail {
    position: fixed;
    inset: auto 0 0;
    height: auto;
    flex-direction: row;
    padding: 4px 4px calc(4px + env(safe-area-inset-bottom));
    border: 0;
    border-top: 1px solid var(--line);
    z-index: 20;
  }
  .rail .home {
    display: none;
  }
  .stop {
    flex: 1;
    padding: 6px 0;
    font-size: 0.75rem;
  }
  .apart {
    margin: 0;
  }
  /* There is no room for it in the bar; it stands in the settings. */
  .out {
    display: none;
  }
  .apart::before {
    display: none;
  }
}
/* What is printed is the sheet, without the studio around it. */
@media print {
  .shell {
    display: block;
  }
  .rail,
  .crown {
    display: none;
  }
}
</style>
