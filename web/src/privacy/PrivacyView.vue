<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { workspaceQuery } from '@/api/queries'

/** What is stored of visitors, for how long, and what never: the same as docs/privacy.md. */
const { data: workspace } = useQuery(workspaceQuery())
const KEPT = [
  {
    what: 'Which page was opened, or which button or short link pressed, when, and on which edition',
    why: 'the figures',
  },
  {
    what: 'The tag and the campaign tags in the address, and the host it came from',
    why: 'where visits come from',
  },
  { what: 'What the browser calls itself', why: 'telling people from crawlers, and phones from desktops' },
  { what: 'A key that stands for one browser on one day', why: 'telling a visit from a repeat' },
]
const NEVER = [
  'the address of a visitor (IP address): it goes into the day’s key, and for an hour into a count against floods that is held in memory only',
  'a cookie on a visitor, or anything else on their device',
  'the page they came from beyond its host, what they searched for, or where they go afterwards',
  'anything that joins two days of one person: the day’s key is made with a random salt, and salts are destroyed 48 hours after their day began',
]
</script>

<template>
  <div class="view">
    <div class="view-head">
      <div>
        <h1>Privacy</h1>
        <p>What your pages store of the people who visit them. You can pass this on as it stands.</p>
      </div>
    </div>
    <div class="columns">
      <section aria-labelledby="kept-title">
        <h2 id="kept-title">Stored with each view and click</h2>
        <dl>
          <div v-for="each in KEPT" :key="each.what">
            <dt>{{ each.what }}</dt>
            <dd>for {{ each.why }}</dd>
          </div>
        </dl>
        <p>
          For <strong>{{ workspace?.keepDays ?? '…' }} days</strong>, then deleted. Sums by day stay: how many
          visits, clicks and visitors, from which source, on which kind of device. No sum is about a person.
        </p>
      </section>
      <section aria-labelledby="never-title">
        <h2 id="never-title">Never stored</h2>
        <ul>
          <li v-for="each in NEVER" :key="each">{{ each }}</li>
        </ul>
      </section>
      <section aria-labelledby="yours-title">
        <h2 id="yours-title">Your own browsers</h2>
        <p>
          Browsers of members, and phones you mark as your own, carry one cookie that says so: it names the
          workspace, and is there so that your own visits are not counted.
        </p>
        <p>Everything can be taken along as plain files, and erased for good, under Settings.</p>
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
