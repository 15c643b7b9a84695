import type { Component } from 'vue'

/** What others ask a stage for, without knowing which it is. */
export type Purpose =
  /** where a ticket opens */
  | 'opening'
  /** where a new machine begins */
  | 'new machine'
  /** where assumptions are changed */
  | 'settings'
  /** where a reading is taken */
  | 'reading'
  /** where the shelf's parts stand */
  | 'shelf'

/** What a stage's folder says of its screen; the rest of a stage is declared on the server. */
export interface StageScreen {
  /** As the server's declaration has it. */
  key: string
  component: Component
  serves?: Purpose[]
  /** Its part of an address before it was called so. */
  once?: string[]
}

const found = import.meta.glob<{ default: StageScreen }>('./*/index.ts', { eager: true })

export const STAGE_SCREENS: StageScreen[] = Object.values(found).map((m) => m.default)

/** A stage's part of an address. */
export const stagePath = (key: string) => key.replaceAll('_', '-')

/** The stage that serves a purpose. */
export function stageFor(purpose: Purpose): string {
  return (STAGE_SCREENS.find((s) => s.serves?.includes(purpose)) ?? STAGE_SCREENS[0]).key
}
