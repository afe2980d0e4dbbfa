import type { InstanceChange, LevelContents, Listed } from 'zintel'
import type { PlanGrip, PlanShape } from 'zintel/draw'
import type { FileKind } from '../desk/files.ts'

/** Something wrong in a file, with its place; offsets count from 0, lines and columns from 1. */
export interface Problem {
  readonly message: string
  readonly from: number
  readonly to: number
  readonly line: number | null
  readonly column: number | null
}

/** Where parts of a file stand in its text: offsets of their entries, by path. */
export type Spans = Readonly<Record<string, readonly [start: number, end: number]>>

/** A level of a project, as seen from the others. */
export interface LevelAround {
  readonly name: string
  readonly file: string
  readonly places: readonly string[]
}

/** What can be read from a level. */
export interface LevelLook {
  readonly title: string
  readonly shapes: readonly PlanShape[]
  /** What can be dragged, of all parts. */
  readonly grips: readonly PlanGrip[]
  readonly listed: readonly Listed[]
  readonly contents: LevelContents
  readonly storeys: readonly string[]
  /** The levels of the project that it belongs to, itself among them, by the names that the project has for them; empty where it is in none. */
  readonly around: readonly LevelAround[]
  readonly types: readonly string[]
  readonly doorways: readonly string[]
}

/** What a text says, as far as it can be read at once. */
export interface Look {
  readonly file: string
  readonly kind: FileKind
  readonly problems: readonly Problem[]
  readonly spans: Spans
  /** Null where it is no level, or cannot be read. */
  readonly level: LevelLook | null
}

/** What the range of each interactable covers: outlines in metres. */
export type Covered = Readonly<Record<string, readonly (readonly (readonly [number, number])[])[]>>

export type { InstanceChange, Listed }
