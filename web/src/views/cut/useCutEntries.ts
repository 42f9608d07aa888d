// What is kept of cutting: the plan, each tick, a spoilt piece, and the rests for the next area.
import { ref, type Ref } from 'vue'
import type { Schemas } from '../../core/core'
import type { Cut } from '../../core/searches'
import { useBook, type Crew, type Recording } from '../../data/book'

type List = Schemas['SiteLayoutOne']
type Said = { key: string; args?: Record<string, unknown> }

export function useCutEntries(job: string, area: string, crew: () => Crew) {
  const book = useBook()
  const busy: Ref<boolean> = ref(false)

  /** One press at a time: a second one would record it twice. Nothing is kept of nobody. */
  async function once(what: (by: string) => Promise<unknown>): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    try {
      const by = await book.who(crew())
      if (!by) return false
      await what(by)
      return true
    } finally {
      busy.value = false
    }
  }

  const ofArea = (by: string, kind: string, body: unknown, said: Said): Recording => ({
    kind,
    body,
    jobId: job,
    areaId: area,
    by,
    say: said,
  })
  const ofJob = (by: string, kind: string, body: unknown, said?: Said): Recording => ({
    kind,
    body,
    jobId: job,
    by,
    ...(said ? { say: said } : {}),
  })

  /** The offcuts it cuts from are taken with it, and given back when it is taken back. */
  const keepPlan = (plan: string, list: List, cut: Cut) =>
    once(async (by) => {
      const used = new Set(cut.plan.filter((roll) => roll.offcut >= 0).map((roll) => list.offcuts[roll.offcut]!.id))
      const offcuts = list.offcuts.map(({ id, length_mm }) => ({ id, length_mm }))
      const said = { key: 'cut.kept', args: { name: list.name } }
      const runs = list.wants.map((want) => want.id)
      await book.recordAll([
        ...[...used].map((offcut) => ofJob(by, 'offcut.taken', { offcut, area })),
        ofArea(by, 'cut.planned', { plan, sheet: list.sheet, runs, rolls: cut.plan, offcuts }, said),
      ])
    })

  const tick = (cut: string, piece: Schemas['CuttingWorkPiece']) =>
    once((by) =>
      book.record(
        ofArea(by, 'cut.done', { cut, pieces: [piece.id] }, { key: 'cut.ticked', args: { label: piece.label } }),
      ),
    )

  const spoil = (cut: string, piece: Schemas['CuttingWorkPiece']) =>
    once((by) =>
      book.record(
        ofArea(by, 'cut.spoilt', { cut, piece: piece.id }, { key: 'cut.spoiled', args: { label: piece.label } }),
      ),
    )

  const keepRests = (cut: Schemas['LogbookCutLook']) =>
    once((by) => {
      const said = { key: 'cut.rests.kept', args: { n: cut.rests.length } }
      return book.recordAll(
        cut.rests.map((length_mm) =>
          ofJob(by, 'offcut.kept', { sheet: cut.sheet, length_mm, area, cut: cut.entry }, said),
        ),
      )
    })

  return { keepPlan, tick, spoil, keepRests }
}
