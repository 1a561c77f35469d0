<script setup lang="ts">
import Button from 'primevue/button'
import Skeleton from 'primevue/skeleton'
import { computed } from 'vue'
import FieldChoice from '@/fields/FieldChoice.vue'
import FieldColour from '@/fields/FieldColour.vue'
import { t } from '@/i18n'
import PageMiniature from '@/page/PageMiniature.vue'
import { usePageStore } from '@/page/pageStore'
import { partWord } from '@/page/partWord'
import ButtonLooks from './ButtonLooks.vue'
import FieldPair from './FieldPair.vue'
import GroundLooks from './GroundLooks.vue'
import ThemeWall from './ThemeWall.vue'
import { useLook } from './useLook'

/** The page's appearance: the page in the middle, each setting beside what it sets, as on a working drawing. */
const page = usePageStore()
const { look, change, figures, palette } = useLook()

const failing = computed(() => (page.state?.contrast ?? []).filter((figure) => !figure.passes))
/** Another background, where no colour of text helps. */
const remedy = computed(() => page.state?.remedy)
const steps = [
  { value: -1, label: t('common.small') },
  { value: 0, label: t('look.ordinary') },
  { value: 1, label: t('common.large') },
  { value: 2, label: t('look.larger') },
]
</script>

<template>
  <div class="view look">
    <h1 class="visually-hidden">{{ $t('common.look') }}</h1>
    <Skeleton v-if="!page.loaded || !look" height="400px" />
    <template v-else>
      <ThemeWall />
      <p v-if="failing.length" class="notice" role="status">
        <span
          >{{
            $t('look.hardToRead', {
              texts: failing.map((figure) => figure.description.toLowerCase()).join('; '),
            })
          }}
          {{ remedy ? $t('look.noOneColour') : $t('look.eachHasItsRepair') }}</span
        >
        <Button
          v-if="remedy"
          size="small"
          severity="secondary"
          :label="remedy.description"
          @click="change($t('look.changeTheBackground'), (changed) => (changed.ground = remedy!.ground))"
        />
      </p>
      <div class="drawing">
        <div class="side left">
          <section class="panel">
            <h2>{{ $t('look.background') }}</h2>
            <GroundLooks />
          </section>
          <section class="panel">
            <h2>{{ $t('look.type') }}</h2>
            <FieldPair
              :model-value="look.type.pair"
              @update:model-value="
                change($t('look.changeTheFonts'), (changed) => (changed.type.pair = $event))
              "
            />
            <FieldChoice
              :label="$t('common.size')"
              :model-value="look.type.step"
              :options="steps"
              @update:model-value="
                change($t('look.changeTheSizeOfType'), (changed) => (changed.type.step = $event))
              "
            />
          </section>
        </div>
        <div class="paper" role="region" :aria-label="$t('look.thePageAsItLooks')" tabindex="0">
          <PageMiniature
            v-if="page.document && page.state"
            class="page-now"
            :strip="page.state.strip"
            :document="page.document"
            :scale="1"
          />
        </div>
        <div class="side right">
          <section class="panel">
            <h2>{{ $t('common.text') }}</h2>
            <FieldColour
              :label="$t('look.nameHeadingsText')"
              :model-value="look.text"
              :figure="figures.get('text')"
              :palette="palette"
              @update:model-value="
                change($t('look.changeTheColourOfText'), (changed) => (changed.text = $event), 'text')
              "
            />
            <FieldColour
              :label="$t('look.quieterText')"
              :model-value="look.soft"
              :figure="figures.get('soft')"
              :palette="palette"
              @update:model-value="
                change($t('look.changeTheColourOfQuieter'), (changed) => (changed.soft = $event), 'soft')
              "
            />
          </section>
          <section class="panel">
            <h2>{{ $t('look.buttons') }}</h2>
            <ButtonLooks
              :buttons="look.buttons"
              :figures="figures"
              where=""
              :palette="palette"
              @change="
                (what, make) =>
                  change(
                    $t('look.changeTheButtons', { what: partWord(what) }),
                    (changed) => make(changed.buttons),
                    `buttons/${what}`,
                  )
              "
            />
          </section>
          <p class="soft small note">
            {{ $t('look.figuresAreContrastByWcag') }}
          </p>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
}
.drawing {
  display: grid;
  grid-template-columns: minmax(250px, 340px) 360px minmax(250px, 340px);
  justify-content: center;
  gap: 44px;
  align-items: start;
}
.side {
  display: grid;
  gap: 18px;
}
.panel {
  position: relative;
  display: grid;
  gap: 14px;
  padding: 12px 0 0;
  border-top: 2px solid var(--accent);
}
/* A leader from each panel to the page, as on a working drawing. */
.panel::after {
  content: '';
  position: absolute;
  top: -2px;
  width: 56px;
  border-top: 2px solid var(--accent);
}
.panel::before {
  content: '';
  position: absolute;
  top: -4px;
  width: 7px;
  height: 7px;
  border-radius: 50%;
  background: var(--accent);
  z-index: 1;
}
.left .panel::after {
  left: 100%;
}
.left .panel::before {
  left: calc(100% + 52px);
}
.right .panel::after {
  right: 100%;
}
.right .panel::before {
  right: calc(100% + 52px);
}
.page-now {
  width: 360px;
  border: 1px solid var(--line-strong);
  border-radius: 14px;
}
@media (max-width: 1120px) {
  .drawing {
    grid-template-columns: 360px minmax(0, 1fr);
    gap: 28px;
  }
  .paper {
    grid-column: 1;
    grid-row: 1 / 3;
    position: sticky;
    top: calc(var(--crown) + 12px);
    max-height: calc(100dvh - var(--crown) - 24px);
    overflow: auto;
  }
  .side {
    grid-column: 2;
  }
  .panel::before,
  .panel::after {
    display: none;
  }
}
@media (max-width: 720px) {
  .drawing {
    grid-template-columns: minmax(0, 1fr);
  }
  .side,
  .paper {
    grid-column: 1;
    grid-row: auto;
  }
  .paper {
    order: -1;
    top: var(--crown);
    z-index: 5;
    max-height: 30dvh;
    margin: 0 -14px;
    padding: 0 14px 8px;
    background: var(--ground);
    justify-items: center;
  }
  /* What has the focus is not under the page. */
  .side :deep(:is(input, button, label, [tabindex])) {
    scroll-margin-top: calc(30dvh + 8px);
  }
  .page-now {
    margin: 0 auto;
    max-width: 100%;
  }
}
</style>
