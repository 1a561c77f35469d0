<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, take } from '@/api/client'
import { filesQuery, usageQuery } from '@/api/queries'
import WrongText from '@/fields/WrongText.vue'
import { count } from '@/figures'
import { formatsOf, t } from '@/i18n'

/** What the workspace holds, of how much it may; and its files, to delete those nobody needs. */
const client = useQueryClient()
const { data: usage } = useQuery(usageQuery())
const { data: parts, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery(filesQuery())
const files = computed(() => parts.value?.pages.flatMap(({ items }) => items) ?? [])

const NAMES: Record<string, string> = {
  media: t('settings.picturesAndFiles'),
  pages: t('settings.pages'),
  shortLinks: t('settings.shortLinks'),
  destinations: t('settings.destinations'),
  sources: t('settings.sourcesOfOnePage'),
  addresses: t('settings.addressesOnePageEverHad'),
  editions: t('settings.editionsOfOnePageWithin'),
  shares: t('settings.openSharesOfOnePages'),
}
const megabytes = (bytes: number) =>
  (bytes / 1024 / 1024).toLocaleString(formatsOf(), { maximumFractionDigits: bytes < 10 << 20 ? 1 : 0 })
const rows = computed(() =>
  (usage.value ?? []).map(({ name, used, of }) => ({
    name,
    label: NAMES[name] ?? name,
    words:
      name === 'media'
        ? t('settings.ofMb', { used: megabytes(used), most: megabytes(of) })
        : t('settings.usedOf', { used: count(used), most: count(of) }),
    share: Math.min(1, used / of),
  })),
)

const shown = ref(false)
const isPicture = (name: string) => /\.(png|jpg|svg)$/.test(name)
const kindOf = (name: string) =>
  isPicture(name)
    ? t('common.picture')
    : /\.(mp4|webm)$/.test(name)
      ? t('settings.film')
      : t('settings.fileToHandOut')
const size = (bytes: number) =>
  bytes < 1 << 20
    ? t('settings.kilobytes', { n: Math.ceil(bytes / 1024) })
    : t('settings.megabytes', { megabytes: megabytes(bytes) })
const date = (text: string) =>
  new Date(text).toLocaleDateString(formatsOf(), { day: 'numeric', month: 'short', year: 'numeric' })

const remove = useMutation({
  mutationFn: (name: string) => take(api.DELETE('/api/files/{name}', { params: { path: { name } } })),
  onSuccess: () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ['files'] }),
      client.invalidateQueries({ queryKey: ['usage'] }),
    ]),
})
</script>

<template>
  <section aria-labelledby="use-title">
    <h2 id="use-title">{{ $t('settings.whatThisWorkspaceHolds') }}</h2>
    <table class="use">
      <tbody>
        <tr v-for="row in rows" :key="row.name" :class="{ near: row.share >= 0.8 }">
          <th scope="row">{{ row.label }}</th>
          <td class="gauge" aria-hidden="true">
            <i :style="{ width: row.share ? `max(2px, ${row.share * 100}%)` : '0' }"></i>
          </td>
          <td class="words">{{ row.words }}</td>
        </tr>
      </tbody>
    </table>
    <p class="soft">
      {{ $t('settings.filesThatNothingRefers') }}
    </p>
    <Button
      :label="shown ? $t('settings.hideTheFiles') : $t('settings.showPicturesAndFiles')"
      severity="secondary"
      size="small"
      :aria-expanded="shown"
      @click="shown = !shown"
    />
    <template v-if="shown">
      <WrongText :text="remove.error.value?.message" />
      <ul v-if="files.length" class="files">
        <li v-for="file in files" :key="file.name">
          <img
            v-if="isPicture(file.name)"
            :src="`/media/${file.name}`"
            width="48"
            height="48"
            alt=""
            loading="lazy"
          />
          <span v-else class="sign" aria-hidden="true">{{ file.name.slice(65) }}</span>
          <span class="what">
            {{ kindOf(file.name)
            }}<template v-if="file.width">, {{ file.width }} × {{ file.height }}</template>
            <span class="soft">{{ size(file.bytes) }}, {{ date(file.keptAt) }}</span>
          </span>
          <span v-if="file.used" class="soft">{{ $t('settings.inUse') }}</span>
          <Button
            v-else
            :label="$t('settings.delete')"
            severity="danger"
            text
            size="small"
            :aria-label="
              $t('settings.deleteFile', {
                kind: kindOf(file.name).toLowerCase(),
                date: date(file.keptAt),
                size: size(file.bytes),
              })
            "
            :loading="remove.isPending.value && remove.variables.value === file.name"
            @click="remove.mutate(file.name)"
          />
        </li>
      </ul>
      <p v-else class="soft">{{ $t('settings.noPictureAndNoFile') }}</p>
      <p v-if="files.some(({ used }) => !used)" class="soft">
        {{ $t('settings.aDeletedFileIsGone') }}
      </p>
      <Button
        v-if="hasNextPage"
        :label="$t('common.showMore')"
        severity="secondary"
        size="small"
        :loading="isFetchingNextPage"
        @click="fetchNextPage()"
      />
    </template>
  </section>
</template>

<style scoped>
.use {
  width: 100%;
  max-width: 36rem;
  border-collapse: collapse;
}
.use th {
  text-align: left;
  font-weight: 400;
  padding: 5px 12px 5px 0;
}
.use tr + tr > * {
  border-top: 1px solid var(--line);
}
.gauge {
  width: 32%;
  min-width: 64px;
}
.gauge i {
  display: block;
  position: relative;
  height: 6px;
  background: var(--accent);
}
.gauge::before {
  content: '';
  display: block;
  height: 6px;
  margin-bottom: -6px;
  background: var(--line);
}
.near .gauge i {
  background: var(--amber);
}
.words {
  text-align: right;
  padding-left: 12px;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
.near .words {
  font-weight: 700;
}
.files {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  max-width: 36rem;
}
.files li {
  display: grid;
  grid-template-columns: 48px 1fr auto;
  gap: 12px;
  align-items: center;
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.files img,
.sign {
  width: 48px;
  height: 48px;
  object-fit: cover;
  border-radius: 3px;
  border: 1px solid var(--line);
}
.sign {
  display: grid;
  place-items: center;
  font-size: 0.75rem;
  color: var(--ink-soft);
}
.what {
  display: grid;
}
.wrong {
  color: var(--danger);
}
@media (max-width: 480px) {
  .gauge {
    display: none;
  }
}
</style>
