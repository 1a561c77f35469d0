<script setup lang="ts">
import { CalendarPlus, Trash2 } from '@lucide/vue'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import Button from 'primevue/button'
import { useConfirm } from 'primevue/useconfirm'
import { computed, ref } from 'vue'
import { api, take, type BookingView } from '@/api/client'
import FieldText from '@/fields/FieldText.vue'
import ToolButton from '@/fields/ToolButton.vue'
import WrongText from '@/fields/WrongText.vue'
import { t } from '@/i18n'
import { timeHere } from '@/shell/moments'
import { actsOn, actWords, hoursOf, stateWords, type Act } from './bookingWords'

/** One time that was asked for, and what is answered. */
const props = defineProps<{ one: BookingView }>()
const client = useQueryClient()
const confirm = useConfirm()
const acting = ref<Act>()
const reply = ref('')
const acts = computed(() => actsOn(props.one))
const who = computed(() => ({ name: props.one.name, when: hoursOf(props.one) }))
/** It will not take place: what was paid for it is to be refunded. */
const isOff = computed(() => ['declined', 'calledOff', 'withdrawn'].includes(props.one.state))
const refresh = () => client.invalidateQueries({ queryKey: ['bookings'] })

const answer = useMutation({
  mutationFn: (act: Act) =>
    take(
      api.POST('/api/bookings/{booking}/answer', {
        params: { path: { booking: props.one.id } },
        body: { act, reply: reply.value },
      }),
    ),
  onSuccess: () => {
    acting.value = undefined
    return refresh()
  },
})
function begin(act: Act) {
  answer.reset()
  reply.value = ''
  acting.value = act
}
const remove = useMutation({
  mutationFn: () =>
    take(api.DELETE('/api/bookings/{booking}', { params: { path: { booking: props.one.id } } })),
  onSettled: refresh,
})
const askToRemove = () =>
  confirm.require({
    header: t('bookings.eraseAsked', who.value),
    message: t('bookings.erasedForGood'),
    acceptProps: { label: t('signUps.erase'), severity: 'danger' },
    rejectProps: { label: t('common.cancel'), severity: 'secondary', text: true },
    accept: () => remove.mutate(),
  })
</script>

<template>
  <li :class="one.state">
    <strong class="hours">{{ hoursOf(one) }}</strong>
    <div class="what">
      <span
        ><strong>{{ one.name }}</strong> · {{ one.block || one.pageName }}</span
      >
      <p v-if="one.word" class="word">{{ one.word }}</p>
      <p v-if="one.reply" class="word">
        <em>{{ $t('bookings.youWrote') }}</em> {{ one.reply }}
      </p>
      <small>
        <a :href="`mailto:${one.address}`">{{ one.address }}</a>
        · {{ one.source || $t('common.untagged') }} ·
        {{ $t('bookings.askedAt', { when: timeHere(one.askedAt) })
        }}<template v-if="one.own"> · {{ $t('signUps.yourOwn') }}</template>
      </small>
      <small class="state">
        {{ stateWords(one)
        }}<template v-if="one.shown">
          ·
          {{
            one.paid
              ? $t('bookings.isPaid', { amount: one.shown })
              : $t('bookings.costs', { amount: one.shown })
          }}</template
        >
      </small>
      <p v-if="one.paid && isOff" class="notice">
        {{ $t('bookings.paidAndOff', { amount: one.shown }) }}
        <RouterLink class="more" :to="{ name: 'income' }">{{ $t('bookings.refundUnderIncome') }}</RouterLink>
      </p>
      <p v-if="one.clashes" class="notice">{{ $t('bookings.clashes') }}</p>
      <form v-if="acting" @submit.prevent="answer.mutate(acting)">
        <FieldText v-model="reply" :label="$t('bookings.aWordWithIt')" :maxlength="500" :lines="2" />
        <p v-if="acting && acting !== 'agree' && one.paid" class="hint">{{ $t('bookings.giveItBack') }}</p>
        <WrongText :text="answer.error.value?.message" />
        <div class="acts">
          <Button
            type="submit"
            size="small"
            :severity="acting === 'agree' ? undefined : 'danger'"
            :label="actWords(acting)"
            :loading="answer.isPending.value"
          />
          <Button
            size="small"
            severity="secondary"
            text
            :label="$t('common.cancel')"
            @click="acting = undefined"
          />
        </div>
      </form>
      <div v-else-if="acts.length" class="acts">
        <Button
          v-for="act in acts"
          :key="act"
          size="small"
          :severity="act === 'agree' ? undefined : 'secondary'"
          :disabled="act === 'agree' && one.clashes"
          :label="actWords(act)"
          :aria-label="$t('bookings.actOn', { act: actWords(act), ...who })"
          @click="begin(act)"
        />
      </div>
      <WrongText :text="remove.error.value?.message" />
    </div>
    <div class="tools">
      <a
        v-if="one.state === 'agreed'"
        class="calendar"
        :href="`/api/bookings/${one.id}/calendar`"
        download
        :aria-label="$t('bookings.intoCalendar', who)"
        :title="$t('bookings.intoCalendar', who)"
      >
        <CalendarPlus aria-hidden="true" />
      </a>
      <ToolButton :icon="Trash2" :label="$t('bookings.eraseWhich', who)" @click="askToRemove" />
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 7.5rem minmax(0, 1fr) auto;
  gap: 4px 14px;
  align-items: start;
  padding: 12px 0 12px 12px;
  border-bottom: 1px solid var(--line);
  border-left: 4px solid transparent;
}
li.asked {
  border-left-color: var(--accent);
}
li:is(.declined, .calledOff, .withdrawn, .lapsed) .hours {
  text-decoration: line-through;
  color: var(--ink-soft);
  font-weight: 400;
}
.hours {
  font-variant-numeric: tabular-nums;
}
.what {
  display: grid;
  gap: 4px;
  justify-items: start;
  overflow-wrap: anywhere;
}
.word {
  margin: 0;
  white-space: pre-line;
}
small {
  color: var(--ink-soft);
}
small a {
  color: inherit;
}
.state {
  color: var(--ink);
  font-weight: 600;
}
form {
  display: grid;
  gap: 8px;
  width: min(100%, 30rem);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 4px;
}
.tools {
  display: flex;
  align-items: center;
  gap: 2px;
}
.calendar {
  display: grid;
  place-items: center;
  width: 36px;
  height: 36px;
  color: var(--ink-soft);
}
.calendar svg {
  width: 18px;
  height: 18px;
}
@media (max-width: 720px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .what {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
