<script setup lang="ts">
import StudioMark from '@/shell/StudioMark.vue'

defineProps<{ title: string; text: string }>()
</script>

<template>
  <main class="frame">
    <section class="pitch" :aria-label="$t('account.whatJundleDoes')">
      <p class="brand"><StudioMark :size="34" /> Jundle</p>
      <p class="promise">{{ $t('account.promise') }}</p>
      <svg
        class="strands"
        viewBox="0 0 420 260"
        aria-hidden="true"
        fill="none"
        stroke-width="7"
        stroke-linecap="round"
      >
        <path d="M-10 26C150 26 130 116 214 130S330 236 440 236" stroke="#0072B2" />
        <path d="M-10 78C130 78 140 124 214 130S330 184 440 184" stroke="#E69F00" />
        <path d="M-10 130H440" stroke="#009E73" />
        <path d="M-10 182C130 182 140 136 214 130S330 78 440 78" stroke="#CC79A7" />
        <path d="M-10 234C150 234 130 144 214 130S330 26 440 26" stroke="#56B4E9" />
        <ellipse cx="214" cy="130" rx="20" ry="58" stroke="#f0b25e" stroke-width="11" />
      </svg>
    </section>
    <section class="form">
      <h1>{{ title }}</h1>
      <p class="soft">{{ text }}</p>
      <slot />
    </section>
  </main>
</template>

<style scoped>
.frame {
  min-height: 100dvh;
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
}
.pitch {
  background: #0b3f49;
  color: #f6f2e9;
  padding: 40px clamp(24px, 5vw, 72px);
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  gap: 32px;
  overflow: hidden;
}
.brand {
  display: flex;
  align-items: center;
  gap: 10px;
  font: 700 1.4rem var(--font-head);
}
.brand :deep(g) {
  stroke: #f6f2e9;
}
.brand :deep(ellipse) {
  stroke: #f0b25e;
}
.promise {
  white-space: pre-line;
  font: 600 clamp(1.5rem, 2.4vw, 2.3rem) / 1.15 var(--font-head);
  letter-spacing: -0.02em;
}
.strands {
  width: calc(100% + 2 * clamp(24px, 5vw, 72px));
  margin: 0 calc(-1 * clamp(24px, 5vw, 72px));
  display: block;
}
.form {
  display: grid;
  align-content: center;
  gap: 18px;
  padding: 32px clamp(24px, 7vw, 110px);
}
.form > :deep(*) {
  max-width: 27rem;
}
@media (max-width: 720px) {
  .frame {
    grid-template-columns: 1fr;
    grid-template-rows: auto 1fr;
  }
  .pitch {
    padding: 18px 20px;
  }
  .promise,
  .strands {
    display: none;
  }
  .form {
    align-content: start;
    padding: 28px 20px;
  }
}
</style>
