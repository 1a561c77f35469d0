import { queryOptions } from '@tanstack/vue-query'
import { toValue, type MaybeRefOrGetter } from 'vue'
import { api, take } from './client'

/** How often figures that are on screen are asked for again, in milliseconds. */
const FRESH_EVERY = 5_000

export const pagesQuery = () =>
  queryOptions({ queryKey: ['pages'], queryFn: () => take(api.GET('/api/pages')) })

export const sourcesQuery = (page: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['sources', page],
    queryFn: () => take(api.GET('/api/pages/{page}/sources', { params: { path: { page: toValue(page) } } })),
    refetchInterval: FRESH_EVERY,
  })

export const readingsQuery = (page: MaybeRefOrGetter<string>, range: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['readings', page, range],
    queryFn: () =>
      take(
        api.GET('/api/pages/{page}/readings', {
          params: { path: { page: toValue(page) }, query: { range: toValue(range) } },
        }),
      ),
    refetchInterval: FRESH_EVERY,
    placeholderData: (previous) => previous,
  })

export const shortLinksQuery = () =>
  queryOptions({
    queryKey: ['short-links'],
    queryFn: () => take(api.GET('/api/short-links')),
    refetchInterval: FRESH_EVERY,
  })

export const linkReadingsQuery = (id: MaybeRefOrGetter<string>) =>
  queryOptions({
    queryKey: ['link-readings', id],
    queryFn: () => {
      const asked = toValue(id)
      return take(api.GET('/api/short-links/{link}/readings', { params: { path: { link: asked } } }))
    },
    refetchInterval: FRESH_EVERY,
  })

export const workspaceQuery = () =>
  queryOptions({ queryKey: ['workspace'], queryFn: () => take(api.GET('/api/workspace')) })
