import {
  createRouter,
  createWebHistory,
  type RouteLocationNormalized,
  type RouteLocationRaw,
} from 'vue-router'
import type { Me } from './api/client'
import { useSession } from './session'
import AwayView from './shell/AwayView.vue'

export const router = createRouter({
  // What changes in the address of a view leaves it where it is.
  scrollBehavior: (to, from, saved) => saved ?? (to.path === from.path ? false : { top: 0 }),
  history: createWebHistory(),
  routes: [
    {
      path: '/sign-in',
      name: 'sign-in',
      component: () => import('./account/SignInView.vue'),
      meta: { open: true },
    },
    {
      path: '/sign-up',
      name: 'sign-up',
      component: () => import('./account/SignUpView.vue'),
      meta: { open: true },
    },
    {
      path: '/open-account',
      name: 'open-account',
      component: () => import('./account/OpenAccount.vue'),
      meta: { open: true, anybody: true },
    },
    {
      path: '/forgotten-password',
      name: 'forgotten-password',
      component: () => import('./account/ForgottenPassword.vue'),
      meta: { open: true, anybody: true },
    },
    {
      path: '/new-password',
      name: 'new-password',
      component: () => import('./account/NewPassword.vue'),
      meta: { open: true, anybody: true },
    },
    {
      path: '/confirm-email',
      name: 'confirm-email',
      component: () => import('./account/ConfirmEmail.vue'),
      meta: { open: true, anybody: true },
    },
    {
      path: '/weekly-letter/:token',
      name: 'letter-off',
      component: () => import('./account/LetterOff.vue'),
      meta: { open: true, anybody: true },
    },
    {
      path: '/invitation',
      name: 'invitation',
      component: () => import('./team/TakeInvitation.vue'),
      meta: { open: true, anybody: true },
    },
    { path: '/away', name: 'away', component: AwayView, meta: { open: true } },
    { path: '/send', name: 'send', component: () => import('./send/SendView.vue') },
    {
      path: '/',
      component: () => import('./shell/StudioShell.vue'),
      children: [
        { path: 'share', name: 'share', component: () => import('./shell/ShareView.vue') },
        { path: 'pages', name: 'pages', component: () => import('./pages/PagesView.vue') },
        { path: '', name: 'home', component: () => import('./shell/HomeView.vue') },
        {
          path: 'pages/:page/arrange',
          name: 'arrange',
          component: () => import('./arrange/ArrangeView.vue'),
        },
        {
          path: 'pages/:page/starters',
          name: 'starters',
          component: () => import('./starters/StartersView.vue'),
        },
        {
          path: 'pages/:page/look',
          name: 'look',
          component: () => import('./look/LookView.vue'),
        },
        {
          path: 'pages/:page/sources',
          name: 'sources',
          component: () => import('./sources/SourcesView.vue'),
        },
        {
          path: 'pages/:page/sources/:source',
          name: 'source',
          component: () => import('./sources/SourceView.vue'),
        },
        {
          path: 'pages/:page/readings',
          name: 'readings',
          component: () => import('./readings/ReadingsView.vue'),
        },
        {
          path: 'pages/:page/partners',
          name: 'partners',
          component: () => import('./partners/PartnersView.vue'),
        },
        {
          path: 'pages/:page/trials',
          name: 'trials',
          component: () => import('./trials/TrialsView.vue'),
        },
        {
          path: 'pages/:page/readings/summary',
          name: 'summary',
          component: () => import('./readings/SummaryView.vue'),
        },
        {
          path: 'pages/:page/readings/buttons/:block',
          name: 'one-button',
          component: () => import('./readings/OneButton.vue'),
        },
        {
          path: 'pages/:page/readings/sources/:source',
          name: 'one-source',
          component: () => import('./readings/OneSource.vue'),
        },
        {
          path: 'pages/:page/editions',
          name: 'editions',
          component: () => import('./editions/EditionsView.vue'),
        },
        {
          path: 'pages/:page/check',
          name: 'check',
          component: () => import('./check/CheckView.vue'),
        },
        {
          path: 'pages/:page/walk',
          name: 'walk',
          component: () => import('./check/WalkView.vue'),
        },
        {
          path: 'pages/:page/settings',
          name: 'page-settings',
          component: () => import('./settings/PageSettingsView.vue'),
        },
        {
          path: 'shelf/destinations/:destination?',
          name: 'destinations',
          component: () => import('./shelf/DestinationsView.vue'),
        },
        { path: 'shelf/:link?', name: 'shelf', component: () => import('./shelf/ShelfView.vue') },
        { path: 'income', name: 'income', component: () => import('./income/IncomeView.vue') },
        { path: 'bookings', name: 'bookings', component: () => import('./bookings/BookingsView.vue') },
        { path: 'sign-ups', name: 'sign-ups', component: () => import('./signups/SignUpsView.vue') },
        { path: 'privacy', name: 'privacy', component: () => import('./privacy/PrivacyView.vue') },
        {
          path: 'settings/account',
          name: 'account',
          component: () => import('./account/AccountView.vue'),
        },
        {
          path: 'settings/members',
          name: 'members',
          component: () => import('./team/MembersView.vue'),
        },
        {
          path: 'settings/domains',
          name: 'domains',
          component: () => import('./domains/DomainsView.vue'),
        },
        {
          path: 'settings/programs',
          name: 'programs',
          component: () => import('./programs/ProgramsView.vue'),
        },
        {
          path: 'settings/programs/webhooks/:webhook',
          name: 'webhook',
          component: () => import('./programs/WebhookView.vue'),
        },
        {
          path: 'settings/journal',
          name: 'journal',
          component: () => import('./team/JournalView.vue'),
        },
        {
          path: 'no-workspace',
          name: 'no-workspace',
          component: () => import('./team/NoWorkspace.vue'),
        },
        { path: 'settings', name: 'settings', component: () => import('./settings/SettingsView.vue') },
        { path: ':rest(.*)*', name: 'unknown', component: () => import('./shell/UnknownView.vue') },
      ],
    },
  ],
})

router.beforeEach(async (to) => {
  const session = useSession()
  if (to.name === 'away') return true
  await session.find()
  if (session.away) return { name: 'away', query: { then: to.fullPath } }
  if (!to.meta.open && !session.me)
    return { name: 'sign-in', query: to.fullPath === '/' ? {} : { then: to.fullPath } }
  // Nobody signs in twice; what anybody may see is seen by whoever is signed in, too.
  if (to.meta.open && !to.meta.anybody && session.me) return { name: 'home' }
  if (session.me && !to.meta.open) return wayOf(to, session.me)
  return true
})

/** Views for whoever only reads figures; of the others, the first is where they are led. */
const READ = [
  'readings',
  'summary',
  'trials',
  'partners',
  'one-button',
  'one-source',
  'home',
  'settings',
  'account',
  'privacy',
  'unknown',
]

/** Leads somebody to what they may see. */
function wayOf(to: RouteLocationNormalized, me: Me): RouteLocationRaw | true {
  if (!me.workspace) return ['no-workspace', 'account'].includes(String(to.name)) || { name: 'no-workspace' }
  if (me.role !== 'reads' || READ.includes(String(to.name))) return true
  return to.params.page ? { name: 'readings', params: { page: to.params.page } } : { name: 'home' }
}
