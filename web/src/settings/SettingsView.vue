<script setup lang="ts">
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import { computed } from 'vue'
import { t } from '@/i18n'
import { saveAll } from '@/saving/editing'
import { useSession } from '@/session'
import { useTheme } from '@/theme/useTheme'
import OwnWorkspaces from '@/team/OwnWorkspaces.vue'
import { useMay } from '@/team/useMay'
import OwnPhone from './OwnPhone.vue'
import SettingsFrame from './SettingsFrame.vue'
import TimeZone from './TimeZone.vue'
import WeeklyLetter from './WeeklyLetter.vue'
import WorkspaceUse from './WorkspaceUse.vue'
import YourData from './YourData.vue'

const session = useSession()
const theme = useTheme()
const may = useMay()
const themes = [
  { value: 'auto', label: t('settings.asTheDevice') },
  { value: 'light', label: t('settings.light') },
  { value: 'dark', label: t('settings.dark') },
]

/** Opens the small window over whatever page is being read. */
const bookmarklet = computed(() => {
  const address = JSON.stringify(`${location.origin}/send`)
  const query = `'?url='+encodeURIComponent(location.href)+'&title='+encodeURIComponent(document.title)`
  return `javascript:void(open(${address}+${query},'jundle','width=460,height=560'))`
})

async function signOut() {
  await saveAll()
  await session.signOut()
}
</script>

<template>
  <SettingsFrame :title="$t('settings.settings')">
    <section>
      <h2>{{ $t('settings.account') }}</h2>
      <p>{{ session.me?.email }}</p>
      <RouterLink class="more" :to="{ name: 'account' }">{{ $t('account.howYouGetIn') }}</RouterLink>
      <Button class="out" :label="$t('settings.signOut')" severity="secondary" @click="signOut" />
    </section>
    <section v-if="may.edit.value">
      <h2>{{ $t('settings.pages') }}</h2>
      <p class="soft">{{ $t('pages.lead') }}</p>
      <RouterLink class="more" :to="{ name: 'pages' }">{{ $t('pages.allPages') }}</RouterLink>
    </section>
    <section v-if="may.editAll.value">
      <h2>{{ $t('income.income') }}</h2>
      <p class="soft">{{ $t('income.lead') }}</p>
      <RouterLink class="more" :to="{ name: 'income' }">{{ $t('income.seeIt') }}</RouterLink>
    </section>
    <section v-if="may.editAll.value">
      <h2>{{ $t('bookings.bookings') }}</h2>
      <p class="soft">{{ $t('bookings.lead') }}</p>
      <RouterLink class="more" :to="{ name: 'bookings' }">{{ $t('bookings.seeThem') }}</RouterLink>
    </section>
    <section v-if="may.run.value">
      <h2>{{ $t('domains.ownDomain') }}</h2>
      <p class="soft">{{ $t('domains.lead') }}</p>
      <RouterLink class="more" :to="{ name: 'domains' }">{{ $t('domains.seeToIt') }}</RouterLink>
    </section>
    <OwnWorkspaces />
    <OwnPhone />
    <TimeZone v-if="may.run.value" />
    <WeeklyLetter />
    <section>
      <h2>{{ $t('programs.programs') }}</h2>
      <p class="soft">{{ $t('programs.lead') }}</p>
      <RouterLink class="more" :to="{ name: 'programs' }">{{ $t('programs.tokensAndWebhooks') }}</RouterLink>
    </section>
    <YourData />
    <WorkspaceUse v-if="may.editAll.value" />
    <section v-if="may.edit.value">
      <h2>{{ $t('settings.sendFromYourBrowser') }}</h2>
      <i18n-t keypath="settings.dragThis" tag="p" scope="global">
        <template #bookmark
          ><a class="bookmarklet" :href="bookmarklet" @click.prevent>{{
            $t('settings.sendToJundle')
          }}</a></template
        >
      </i18n-t>
      <p class="soft">
        {{ $t('settings.pressedOnAnyPage') }}
      </p>
    </section>
    <section>
      <h2>{{ $t('settings.lightOrDark') }}</h2>
      <SelectButton
        v-model="theme"
        :options="themes"
        option-value="value"
        option-label="label"
        :allow-empty="false"
        :aria-label="$t('settings.lightOrDark')"
      />
      <p class="soft">{{ $t('settings.forTheStudio') }}</p>
    </section>
  </SettingsFrame>
</template>

<style scoped>
.bookmarklet {
  display: inline-block;
  padding: 4px 12px;
  border: 1.5px dashed var(--accent);
  border-radius: 4px;
  font-weight: 600;
  cursor: grab;
}
/* Wider screens have it in the rail. */
.out {
  display: none;
}
@media (max-width: 720px) {
  .out {
    display: inline-flex;
  }
}
</style>
