<script setup lang="ts">
import { ArrowLeft, Copy, Download, Printer } from '@lucide/vue'
import { useQuery } from '@tanstack/vue-query'
import { useNow } from '@vueuse/core'
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { sourcesQuery } from '@/api/queries'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldColour from '@/fields/FieldColour.vue'
import FieldSwitch from '@/fields/FieldSwitch.vue'
import WrongText from '@/fields/WrongText.vue'
import { ago } from '@/figures'
import { t } from '@/i18n'
import { usePageStore } from '@/page/pageStore'
import { useCopy } from '@/shell/useCopy'
import { steps } from './places'
import { useSourceCode, type Level } from './useSourceCode'

/** One source: its code as it goes on paper, and how its address gets to where it belongs. */
const route = useRoute()
const page = usePageStore()
const copy = useCopy()
const now = useNow({ interval: 5_000 })
const pageId = computed(() => String(route.params.page))
const { data: sources } = useQuery(sourcesQuery(pageId))
const source = computed(() => sources.value?.find((each) => each.id === route.params.source))
const bare = computed(() => source.value?.entryAddress.replace(/^https?:\/\//, '') ?? '')

const level = ref<Level>('M')
const ink = ref('#000000')
const ground = ref('#ffffff')
const mark = ref(false)
const perSheet = ref(1)
const LEVELS = [
  { value: 'L', label: 'L, 7 %' },
  { value: 'M', label: 'M, 15 %' },
  { value: 'Q', label: 'Q, 25 %' },
  { value: 'H', label: 'H, 30 %' },
] as const
const SHEETS = [
  { value: 1, label: t('sources.oneLarge') },
  { value: 8, label: t('sources.eightCards') },
] as const
const hasPicture = computed(() => page.document?.header.picture !== undefined)

const code = useSourceCode(pageId, () => source.value?.id, { level, ink, ground, mark })
const print = () => window.print()
</script>

<template>
  <div class="view">
    <RouterLink class="back" :to="{ name: 'sources', params: { page: pageId } }">
      <ArrowLeft aria-hidden="true" /> {{ $t('sources.allSources') }}
    </RouterLink>
    <template v-if="source">
      <div class="view-head">
        <div>
          <h1>{{ source.name }}</h1>
          <p :class="{ never: !source.seenAt }" aria-live="polite">
            {{
              source.seenAt
                ? $t('sources.seenTheAddress', { ago: ago(new Date(source.seenAt), now) })
                : $t('sources.notSeenYetPut')
            }}
          </p>
        </div>
      </div>
      <div class="bench">
        <figure
          class="print-sheet"
          :class="{ many: perSheet > 1 }"
          :aria-label="$t('sources.codeFor', { name: source.name })"
        >
          <div v-for="n in perSheet" :key="n" class="piece" :class="{ more: n > 1 }">
            <img
              v-if="code.picture.value"
              :src="code.picture.value"
              :alt="n === 1 ? $t('sources.qrCodeOf', { address: bare }) : ''"
            />
            <div v-else class="none"></div>
            <figcaption>
              <strong>{{ page.document?.header.name || page.state?.address }}</strong>
              <span>{{ bare }}</span>
            </figcaption>
          </div>
        </figure>
        <div class="side">
          <section aria-labelledby="steps-title">
            <h2 id="steps-title">{{ $t('sources.putItThere') }}</h2>
            <ol>
              <li v-for="step in steps(source)" :key="step">{{ step }}</li>
            </ol>
            <div class="row">
              <code>{{ bare }}</code>
              <Button
                size="small"
                severity="secondary"
                :aria-label="$t('common.copyTheAddress')"
                @click="copy(source.entryAddress, $t('sources.theAddressFor', { name: source.name }))"
              >
                <Copy aria-hidden="true" /> {{ $t('common.copy') }}
              </Button>
            </div>
          </section>
          <section aria-labelledby="code-title">
            <h2 id="code-title">{{ $t('sources.theCode') }}</h2>
            <div class="colours">
              <FieldColour v-model="ink" :label="$t('sources.code')" />
              <FieldColour v-model="ground" :label="$t('sources.ground')" />
            </div>
            <FieldChoice v-model="level" :label="$t('sources.howMuchMayBeDamaged')" :options="LEVELS" />
            <FieldSwitch
              v-model="mark"
              :label="hasPicture ? $t('sources.thePagesPicture') : $t('sources.aPictureInTheMiddle')"
            />
            <WrongText :text="code.wrong.value" />
            <p v-if="!code.wrong.value" class="soft small">
              {{ mark ? $t('sources.readableWithPicture') : $t('sources.readable') }}
            </p>
            <div class="row">
              <a
                class="save"
                :href="code.address('svg')"
                :download="`${page.state?.address}-${source.tag}.svg`"
              >
                <Download aria-hidden="true" /> {{ $t('sources.svg') }}
              </a>
              <a
                class="save"
                :href="code.address('png')"
                :download="`${page.state?.address}-${source.tag}.png`"
              >
                <Download aria-hidden="true" /> {{ $t('sources.png') }}
              </a>
            </div>
          </section>
          <section aria-labelledby="print-title">
            <h2 id="print-title">{{ $t('sources.printSheet') }}</h2>
            <FieldChoice v-model="perSheet" :label="$t('sources.onASheet')" :options="SHEETS" />
            <div class="row">
              <Button size="small" severity="secondary" @click="print">
                <Printer aria-hidden="true" /> {{ $t('sources.print') }}
              </Button>
            </div>
          </section>
        </div>
      </div>
    </template>
    <p v-else-if="sources" class="notice">{{ $t('sources.thereIsNoSuchSource') }}</p>
  </div>
</template>

<style scoped>
.row svg {
  width: 15px;
  height: 15px;
}
.never {
  color: var(--amber) !important;
  font-weight: 600;
}
.bench {
  display: grid;
  grid-template-columns: minmax(300px, 460px) minmax(300px, 34rem);
  gap: 36px;
  align-items: start;
}
.print-sheet {
  margin: 0;
  padding: 28px;
  background: #fff;
  color: #111;
  border: 1px solid var(--line-strong);
  aspect-ratio: 210 / 297;
  display: grid;
  place-content: center;
  gap: 12px;
}
.print-sheet.many {
  grid-template-columns: 1fr 1fr;
  padding: 14px;
  place-content: stretch;
}
.piece {
  display: grid;
  gap: 10px;
  justify-items: center;
  align-content: center;
  text-align: center;
}
.piece img,
.none {
  width: min(100%, 300px);
  aspect-ratio: 1;
}
.many .piece {
  border: 1px dashed #bbb;
  gap: 2px;
}
.many .piece img {
  width: 78px;
}
figcaption {
  display: grid;
  font-size: 1rem;
  overflow-wrap: anywhere;
}
figcaption strong {
  font-family: var(--font-head);
  font-size: 1.25rem;
}
.many figcaption,
.many figcaption strong {
  font-size: 0.62rem;
}
.side {
  display: grid;
  gap: 26px;
}
section {
  display: grid;
  gap: 10px;
  justify-items: start;
}
ol {
  margin: 0;
  padding-left: 1.3em;
  display: grid;
  gap: 4px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
code {
  font: inherit;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.colours {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
}
.save {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  padding: 5px 14px;
  border: 1px solid var(--line-strong);
  border-radius: 4px;
  text-decoration: none;
  font-weight: 600;
}
.wrong {
  color: var(--danger);
}
@media (max-width: 900px) {
  .bench {
    grid-template-columns: 1fr;
  }
  .side {
    order: -1;
  }
}
/* High enough for A4 and for Letter, each on one sheet. */
@page {
  margin: 12mm;
}
@media print {
  .back,
  .view-head,
  .side {
    display: none;
  }
  .view {
    padding: 0;
  }
  .bench {
    display: block;
  }
  .print-sheet {
    border: 0;
    padding: 0;
    width: 100%;
    aspect-ratio: auto;
    height: 245mm;
    break-inside: avoid;
    overflow: hidden;
  }
  .piece img {
    width: 120mm;
  }
  .many .piece {
    min-height: 0;
  }
  .many .piece img {
    width: 42mm;
  }
  .many figcaption,
  .many figcaption strong {
    font-size: 10pt;
  }
}
</style>
