// What a step lays beside the coats of the film, and its questions: one at a time, what is open first.
import { computed, ref } from 'vue'
import type { Schemas } from '../../core/core'
import { toggled } from '../../data/toggled'
import { useHere } from '../../data/useHere'
import { say } from '../../words/words'
import type { Step } from '../area/useArea'

export type Work = Schemas['LogbookWorkLook']

/** A work among those of its step. */
export const workId = (work: Work) => `${work.id}.${work.coat}`
/** What it is called beside the others: the product's kind, and which coat where there are several. */
export const workName = (work: Work, all: readonly Work[]) => {
  const alike = all.filter((each) => each.id === work.id || each.product === work.product)
  const name = say(`product.${work.role}`)
  return alike.length > 1 ? `${name} ${alike.indexOf(work) + 1}` : name
}
export const isDone = (work: Work) => work.places.every((place) => work.laid.includes(place.id))

/** `other` is the tab beside the works: the pieces of a step that beds, the questions of another. */
export function useWorks(step: () => Step, other: string) {
  const works = computed(() => step().works.filter((work) => !work.beds))
  const first = () => {
    const open = works.value.find((work) => !isDone(work))
    return other === 'pieces' || !open ? other : workId(open)
  }
  const tab = useHere(`work.${step().id}`, first())
  const work = computed(() => works.value.find((each) => workId(each) === tab.value))
  const tabs = computed(() => {
    const ids = works.value.map(workId)
    if (other === 'asks' && !(step().asks ?? []).length && ids.length) return ids
    return other === 'pieces' ? [other, ...ids] : [...ids, other]
  })
  const named = (id: string) => {
    const of = works.value.find((each) => workId(each) === id)
    return of ? workName(of, works.value) : say(`work.tab.${id}`)
  }
  const doneAt = (id: string) => {
    const of = works.value.find((each) => workId(each) === id)
    return !!of && isDone(of)
  }
  /** After something was laid: what is still open comes next. */
  const onwards = () => {
    const open = works.value.find((each) => !isDone(each) && workId(each) !== tab.value)
    if (work.value && isDone(work.value)) tab.value = open ? workId(open) : other
  }
  /** The places that are to be laid next. */
  const chosen = ref<string[]>([])
  const choose = (ids: string[]) => {
    chosen.value = ids
  }
  const show = (id: string) => {
    tab.value = id
    chosen.value = []
  }
  /** A place tapped on the drawing: taken or left, if it is one of this work's and open. */
  const pick = (id: string) => {
    if (work.value?.places.some((each) => each.id === id) && !work.value.laid.includes(id))
      chosen.value = toggled(chosen.value, id)
  }
  return { works, work, chosen, choose, show, pick, tab, tabs, named, doneAt, onwards }
}
