import { infiniteQueryOptions, queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, take, takeAll, takePart } from './client'

/** How often figures that are on screen are asked for again, in milliseconds. */
const FRESH_EVERY = 5_000

export const pagesQuery = () =>
  queryOptions({ queryKey: ['pages'], queryFn: () => take(api.GET('/api/pages')) })

export const sourcesQuery = (page: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['sources', page],
    queryFn: () => {
      const asked = toValue(page)
      return takeAll((after) =>
        api.GET('/api/pages/{page}/sources', {
          params: { path: { page: asked }, query: { after, limit: 200 } },
        }),
      )
    },
  })

/** Who did what, the latest first. */
export const journalQuery = () =>
  infiniteQueryOptions({
    queryKey: ['journal'],
    queryFn: ({ pageParam }) =>
      takePart(api.GET('/api/journal', { params: { query: { after: pageParam, limit: 50 } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

export const signUpCountsQuery = () =>
  queryOptions({
    queryKey: ['sign-ups', 'count'],
    queryFn: () => take(api.GET('/api/sign-ups/count')),
  })

export const incomeQuery = () =>
  queryOptions({ queryKey: ['income', 'sums'], queryFn: () => take(api.GET('/api/income')) })

/** Payments that were made or failed, the latest first. */
export const paymentsQuery = () => ({
  queryKey: ['income', 'payments'],
  queryFn: ({ pageParam }: { pageParam?: string }) =>
    takePart(api.GET('/api/payments', { params: { query: { after: pageParam, limit: 50 } } })),
  initialPageParam: undefined as string | undefined,
  getNextPageParam: (last: { next?: string }) => last.next,
})

export const bookingCountsQuery = () =>
  queryOptions({ queryKey: ['bookings', 'count'], queryFn: () => take(api.GET('/api/bookings/count')) })

/** Times that visitors asked for: those ahead or some of them, the soonest first, or those that are over. */
export const bookingsQuery = (which: MaybeRefOrGetter<'ahead' | 'waiting' | 'over'>) =>
  infiniteQueryOptions({
    queryKey: ['bookings', 'list', which],
    queryFn: ({ pageParam }) =>
      takePart(
        api.GET('/api/bookings', {
          params: { query: { which: toValue(which), after: pageParam, limit: 50 } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

/** Who left an e-mail address, the latest first: all, or those that have confirmed it, or have not. */
export const signUpsQuery = (
  only: MaybeRefOrGetter<'' | 'confirmed' | 'waiting'>,
  find: MaybeRefOrGetter<string>,
) =>
  infiniteQueryOptions({
    queryKey: ['sign-ups', 'list', only, find],
    queryFn: ({ pageParam }) =>
      takePart(
        api.GET('/api/sign-ups', {
          params: {
            query: {
              after: pageParam,
              limit: 25,
              only: toValue(only) || undefined,
              find: toValue(find) || undefined,
            },
          },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

type Compared = 'none' | 'before' | 'weekdays'

export const readingsQuery = (
  page: MaybeRefOrGetter<string>,
  range: MaybeRefOrGetter<string>,
  compare: MaybeRefOrGetter<Compared> = 'none',
) =>
  queryOptions({
    queryKey: ['readings', page, range, compare],
    queryFn: () =>
      take(
        api.GET('/api/pages/{page}/readings', {
          params: {
            path: { page: toValue(page) },
            query: { range: toValue(range), compare: toValue(compare) },
          },
        }),
      ),
    // Nobody says how far a recount has come.
    refetchInterval: (query) => (query.state.data?.recounting ? FRESH_EVERY : false),
    placeholderData: (previous) => previous,
  })

/** One button of a page day by day, from one source or, for an empty one, from everywhere. */
export const blockReadingsQuery = (
  page: MaybeRefOrGetter<string>,
  block: MaybeRefOrGetter<string>,
  range: MaybeRefOrGetter<string>,
  source: MaybeRefOrGetter<string>,
) =>
  queryOptions({
    queryKey: ['readings', page, 'block', block, range, source],
    queryFn: () =>
      take(
        api.GET('/api/pages/{page}/readings/blocks/{block}', {
          params: {
            path: { page: toValue(page), block: toValue(block) },
            query: { range: toValue(range), source: toValue(source) || undefined },
          },
        }),
      ),
    placeholderData: (previous) => previous,
  })

/** One source of a page day by day. */
export const sourceReadingsQuery = (
  page: MaybeRefOrGetter<string>,
  source: MaybeRefOrGetter<string>,
  range: MaybeRefOrGetter<string>,
) =>
  queryOptions({
    queryKey: ['readings', page, 'source', source, range],
    queryFn: () =>
      take(
        api.GET('/api/pages/{page}/readings/sources/{source}', {
          params: {
            path: { page: toValue(page), source: toValue(source) },
            query: { range: toValue(range) },
          },
        }),
      ),
    placeholderData: (previous) => previous,
  })

/** How much blocks of a page pull, and a better order of the page as it is at a revision. */
export const orderQuery = (page: MaybeRefOrGetter<string>, revision: MaybeRefOrGetter<number | undefined>) =>
  queryOptions({
    queryKey: ['order', page, revision],
    queryFn: () => take(api.GET('/api/pages/{page}/order', { params: { path: { page: toValue(page) } } })),
    staleTime: 60_000,
    placeholderData: (previous) => previous,
  })

/** The latest of what was kept and not counted. */
export const leftOutQuery = (page: MaybeRefOrGetter<string>, range: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['left-out', page, range],
    queryFn: () =>
      take(
        api.GET('/api/pages/{page}/left-out', {
          params: { path: { page: toValue(page) }, query: { range: toValue(range) } },
        }),
      ),
  })

/** Those whose counts are held against ours. */
export const partnersQuery = (page: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['partners', page],
    queryFn: () => take(api.GET('/api/pages/{page}/partners', { params: { path: { page: toValue(page) } } })),
  })

/** The counts of one of them against ours; of none while none is chosen. */
export const partnerQuery = (
  page: MaybeRefOrGetter<string>,
  partner: MaybeRefOrGetter<string | undefined>,
  range: MaybeRefOrGetter<string>,
) =>
  queryOptions({
    queryKey: ['partners', page, partner, range],
    queryFn: async () => {
      const asked = toValue(partner)
      if (!asked) return null
      return take(
        api.GET('/api/pages/{page}/partners/{partner}', {
          params: { path: { page: toValue(page), partner: asked }, query: { range: toValue(range) } },
        }),
      )
    },
    placeholderData: (previous) => previous,
  })

/** The one thing that is off with a page, if any. It goes by days that are over, so it is asked for seldom. */
export const offQuery = (page: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['off', page],
    queryFn: () => take(api.GET('/api/pages/{page}/off', { params: { path: { page: toValue(page) } } })),
    staleTime: 600_000,
  })

/** The trials of a page, with what came of them; part of its readings, so that new clicks are followed. */
export const trialsQuery = (page: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['trials', page],
    queryFn: () => take(api.GET('/api/pages/{page}/trials', { params: { path: { page: toValue(page) } } })),
  })

/** The editions of a page, asked for anew once another is live. */
export const editionsQuery = (page: MaybeRefOrGetter<string>, live: MaybeRefOrGetter<number | undefined>) =>
  infiniteQueryOptions({
    queryKey: ['editions', page, live],
    queryFn: ({ pageParam }) =>
      takePart(
        api.GET('/api/pages/{page}/editions', {
          params: { path: { page: toValue(page) }, query: { after: pageParam, limit: 20 } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

/** An edition of a page beside another, or beside the working copy for 0, which is asked for anew at each revision. */
export const comparedEditionQuery = (
  page: MaybeRefOrGetter<string>,
  number: MaybeRefOrGetter<number>,
  beside: MaybeRefOrGetter<number>,
  revision: MaybeRefOrGetter<number | undefined>,
) =>
  queryOptions({
    queryKey: ['compared-edition', page, number, beside, revision],
    queryFn: () => {
      const path = { page: toValue(page), edition: toValue(number) }
      const params = { path, query: { with: toValue(beside) } }
      return take(api.GET('/api/pages/{page}/editions/{edition}', { params }))
    },
    placeholderData: (previous) => previous,
  })

/** What would be shown at a moment, now for none, to who comes from a source; asked for anew at each revision. */
export const seenQuery = (
  page: MaybeRefOrGetter<string>,
  at: MaybeRefOrGetter<string>,
  source: MaybeRefOrGetter<string>,
  revision: MaybeRefOrGetter<number | undefined>,
  enabled: MaybeRefOrGetter<boolean>,
) =>
  queryOptions({
    queryKey: ['seen', page, at, source, revision],
    queryFn: () => {
      const query = { at: toValue(at) || undefined, source: toValue(source) || undefined }
      return take(api.GET('/api/pages/{page}/seen', { params: { path: { page: toValue(page) }, query } }))
    },
    placeholderData: (previous) => previous,
    enabled,
  })

/** How often it is looked whether addresses have been asked, in milliseconds. */
const ASKED_EVERY = 5_000

export const checkQuery = (page: MaybeRefOrGetter<string>, revision: MaybeRefOrGetter<number | undefined>) =>
  queryOptions({
    queryKey: ['check', page, revision],
    queryFn: () => take(api.GET('/api/pages/{page}/check', { params: { path: { page: toValue(page) } } })),
    placeholderData: (previous) => previous,
    refetchInterval: (query) => (query.state.data?.waiting ? ASKED_EVERY : false),
  })

export const shortLinksQuery = () =>
  infiniteQueryOptions({
    queryKey: ['short-links'],
    queryFn: ({ pageParam }) =>
      takePart(api.GET('/api/short-links', { params: { query: { after: pageParam } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
    // Only the latest are kept fresh: more of them are read once.
    refetchInterval: (query) => ((query.state.data?.pages.length ?? 0) > 1 ? false : FRESH_EVERY),
  })

export const destinationsQuery = (search: MaybeRefOrGetter<string>) =>
  infiniteQueryOptions({
    queryKey: ['destinations', search],
    queryFn: ({ pageParam }) =>
      takePart(
        api.GET('/api/destinations', {
          params: { query: { after: pageParam, search: toValue(search) || undefined } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

export const destinationQuery = (destination: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['destination', destination],
    queryFn: () => {
      const params = { path: { destination: toValue(destination) } }
      return take(api.GET('/api/destinations/{destination}', { params }))
    },
  })

/** Changes of many destinations of the last week. */
export const destinationChangesQuery = () =>
  queryOptions({
    queryKey: ['destinations', 'changes'],
    queryFn: () => take(api.GET('/api/destination-changes')),
  })

/** When blocks of a page show, as it is at a revision. That of weeks comes with the page itself. */
export const ribbonQuery = (
  page: MaybeRefOrGetter<string | undefined>,
  revision: MaybeRefOrGetter<number | undefined>,
  over: MaybeRefOrGetter<'hours' | 'weeks' | 'months'>,
) =>
  queryOptions({
    queryKey: ['ribbon', page, revision, over],
    enabled: () => !!toValue(page) && toValue(over) !== 'weeks',
    placeholderData: (before) => before,
    queryFn: () => {
      const params = { path: { page: toValue(page)! }, query: { over: toValue(over) } }
      return take(api.GET('/api/pages/{page}/ribbon', { params }))
    },
  })

export const filesQuery = () =>
  infiniteQueryOptions({
    queryKey: ['files'],
    queryFn: ({ pageParam }) =>
      takePart(api.GET('/api/files', { params: { query: { after: pageParam, limit: 24 } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (last) => last.next,
  })

export const usageQuery = () =>
  queryOptions({ queryKey: ['usage'], queryFn: () => take(api.GET('/api/workspace/usage')) })

/** How often it is asked how far an export is, in milliseconds. */
const EXPORT_EVERY = 1_000

export const exportQuery = () =>
  queryOptions({
    queryKey: ['export'],
    queryFn: () => take(api.GET('/api/workspace/export')),
    refetchInterval: (query) => (query.state.data?.state === 'running' ? EXPORT_EVERY : false),
  })

/** The clicks that led to a destination in the last 28 days. */
export const destinationReadingsQuery = (id: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['destination-readings', id],
    queryFn: () =>
      take(
        api.GET('/api/destinations/{destination}/readings', {
          params: { path: { destination: toValue(id) }, query: { range: '28d-today' } },
        }),
      ),
  })

export const linkReadingsQuery = (id: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['link-readings', id],
    queryFn: () => {
      const asked = toValue(id)
      return take(
        api.GET('/api/short-links/{link}/readings', {
          params: { path: { link: asked }, query: { range: '28d-today' } },
        }),
      )
    },
    refetchInterval: FRESH_EVERY,
  })

export const workspaceQuery = () =>
  queryOptions({ queryKey: ['workspace'], queryFn: () => take(api.GET('/api/workspace')) })
