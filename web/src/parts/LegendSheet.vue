<script setup lang="ts">
// What is what on this screen: its own marks as they are drawn, the spine's, and the keys.
import { marks, wordsOf, type Mark } from '../drawing/legend'
import { LETTERS, letters } from '../theme/useFrame'
import { tryAlarm } from '../data/useAlarm'
import { chooseLanguage, offered, spoken } from '../words/language'
import { say } from '../words/words'
import OneOf from './OneOf.vue'
import SideSheet from './SideSheet.vue'
import StateGlyph from './StateGlyph.vue'

const emit = defineEmits<{ close: [] }>()

const props = defineProps<{ person: string }>()
const choose = (language: string) => chooseLanguage(props.person, language)

const classOf = (mark: Mark) => `${mark.of === 'net' ? 's' : 't'}-${mark.style}`
const states = ['too early', 'open', 'closing', 'too late'] as const
const keys = ['stage', 'now', 'waits', 'undo', 'walk', 'enter', 'zoom', 'help'] as const
</script>

<template>
  <SideSheet :title="say('legend.title')" @close="emit('close')">
    <section>
      <h2 class="sub">{{ say('letters.title') }}</h2>
      <OneOf
        v-slot="{ option }"
        class="letters"
        look="outline"
        :options="LETTERS"
        :picked="letters"
        :label="say('letters.title')"
        @pick="(size) => (letters = size)"
      >
        {{ say(`letters.${(LETTERS as readonly number[]).indexOf(option) + 1}`) }}
      </OneOf>
    </section>
    <section>
      <h2 class="sub">{{ say('alarm.title') }}</h2>
      <p>{{ say('alarm.line') }}</p>
      <button class="outline narrow" @click="tryAlarm">{{ say('alarm.try') }}</button>
    </section>
    <section v-if="Object.keys(offered).length > 1">
      <h2 class="sub">{{ say('languages.title') }}</h2>
      <OneOf
        v-slot="{ option }"
        class="letters"
        look="outline"
        :options="Object.keys(offered)"
        :picked="spoken"
        :label="say('languages.title')"
        @pick="choose"
      >
        <span :lang="option">{{ offered[option] }}</span>
      </OneOf>
    </section>
    <section v-if="marks.length">
      <h2 class="sub">{{ say('legend.marks') }}</h2>
      <ul>
        <li v-for="mark in marks" :key="wordsOf(mark)" class="row">
          <span class="sample-of" :class="mark.of" aria-hidden="true">
            <svg viewBox="0 0 56 36" :class="mark.of" :style="mark.looks">
              <path v-if="mark.kind === 'area'" d="M6 6H50V30H6Z" :class="classOf(mark)" />
              <circle v-else-if="mark.kind === 'disc'" cx="28" cy="18" r="11" :class="classOf(mark)" />
              <path v-else d="M4 24L52 12" :class="classOf(mark)" />
            </svg>
          </span>
          <span class="grow">{{ say(wordsOf(mark)) }}</span>
        </li>
      </ul>
    </section>
    <section>
      <h2 class="sub">{{ say('legend.states') }}</h2>
      <ul>
        <li v-for="state in states" :key="state" class="row">
          <StateGlyph :state="state" />
          <span class="grow"
            ><strong>{{ say(`board.state.${state}`) }}</strong> {{ say(`legend.state.${state}`) }}</span
          >
        </li>
      </ul>
    </section>
    <section>
      <h2 class="sub">{{ say('legend.words') }}</h2>
      <dl>
        <template v-for="word in ['spine', 'hold', 'lime', 'deviation', 'sample', 'not_known']" :key="word">
          <dt>{{ say(`legend.word.${word}`) }}</dt>
          <dd>{{ say(`legend.word.${word}.says`) }}</dd>
        </template>
      </dl>
    </section>
    <section>
      <h2 class="sub">{{ say('legend.keys') }}</h2>
      <dl class="keyed">
        <template v-for="key in keys" :key="key">
          <dt class="mono">{{ say(`legend.key.${key}`) }}</dt>
          <dd>{{ say(`legend.key.${key}.does`) }}</dd>
        </template>
      </dl>
    </section>
  </SideSheet>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  padding-bottom: 18px;
}
.letters {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.sample-of {
  flex: none;
  width: 56px;
  height: 36px;
}
dt {
  font-weight: 700;
}
dd {
  padding-bottom: 6px;
}
.keyed {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 6px 16px;
}
</style>
