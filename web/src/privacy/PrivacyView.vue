<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { workspaceQuery } from '@/api/queries'
import { counted } from '@/figures'
import { t } from '@/i18n'
import { useMay } from '@/team/useMay'

/** What is stored of visitors, for how long, and what never: the same as docs/privacy.md. */
const { data: workspace } = useQuery({ ...workspaceQuery(), enabled: useMay().edit })
const KEPT = [
  {
    what: t('privacy.whichPageWasOpened'),
    why: t('privacy.theFigures'),
  },
  {
    what: t('privacy.theTagAndTheCampaign'),
    why: t('privacy.whereVisitsComeFrom'),
  },
  { what: t('privacy.whatTheBrowserCallsItself'), why: t('privacy.tellingPeopleFromCrawlers') },
  { what: t('privacy.countryAndLanguage'), why: t('privacy.whereVisitorsAre') },
  { what: t('privacy.aKeyThatStands'), why: t('privacy.tellingAVisit') },
  { what: t('privacy.howFarDown'), why: t('privacy.howOftenOnScreen') },
]
const NEVER = [
  t('privacy.theAddressOfAVisitor'),
  t('privacy.aCookieOnAVisitor'),
  t('privacy.thePageTheyCame'),
  t('privacy.anythingThatJoinsTwoDays'),
]
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>{{ $t('privacy.privacy') }}</h1>
        <p>{{ $t('privacy.whatYourPagesStore') }}</p>
      </div>
    </div>
    <div class="columns">
      <section aria-labelledby="kept-title">
        <h2 id="kept-title">{{ $t('privacy.storedWithEachView') }}</h2>
        <dl>
          <div v-for="each in KEPT" :key="each.what">
            <dt>{{ each.what }}</dt>
            <dd>{{ $t('privacy.for', { why: each.why }) }}</dd>
          </div>
        </dl>
        <i18n-t keypath="privacy.forDays" tag="p" scope="global">
          <template #days
            ><strong>{{ workspace ? counted(workspace.keepDays, 'day') : '…' }}</strong></template
          >
        </i18n-t>
      </section>
      <section aria-labelledby="never-title">
        <h2 id="never-title">{{ $t('privacy.neverStored') }}</h2>
        <ul>
          <li v-for="each in NEVER" :key="each">{{ each }}</li>
        </ul>
      </section>
      <section aria-labelledby="signed-title">
        <h2 id="signed-title">{{ $t('privacy.whoSignsUp') }}</h2>
        <p>{{ $t('privacy.whoeverLeavesAnAddress') }}</p>
      </section>
      <section aria-labelledby="yours-title">
        <h2 id="yours-title">{{ $t('privacy.yourOwnBrowsers') }}</h2>
        <p>
          {{ $t('privacy.browsersOfMembersAndPhones') }}
        </p>
        <p>{{ $t('privacy.everythingCanBeTakenAlong') }}</p>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 28px 40px;
  max-width: 1100px;
}
section {
  display: grid;
  gap: 12px;
  align-content: start;
  padding-top: 14px;
  border-top: 2px solid var(--ink);
}
dl,
ul {
  margin: 0;
  padding: 0;
  list-style: none;
  display: grid;
  gap: 10px;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  color: var(--ink-soft);
}
li {
  padding-left: 14px;
  border-left: 3px solid var(--accent);
}
</style>
