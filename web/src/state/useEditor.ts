import { inject, provide, type InjectionKey } from 'vue'
import type { Edit, FieldError, Schemas } from '../api/client'
import { useJob } from './useJob'

/** What a field edits: a place's value, what is typed there, what was refused. */
export interface Editor {
  readonly drafts: Record<string, string>
  readonly errors: Record<string, FieldError | undefined>
  readonly problems: Record<string, Schemas['Problem'] | undefined>
  /** Whether it is only looked at. */
  readonly readonly?: boolean
  at(place: string): unknown
  type(place: string, text: string, sent?: string): void
  edit(edits: Edit[]): void
  set(place: string, value: unknown): void
}

const KEY: InjectionKey<Editor> = Symbol('editor')

/** The job on screen, unless what stands above says what is edited here. */
export function useEditor(): Editor {
  return inject(KEY, undefined) ?? (useJob() as unknown as Editor)
}

export function provideEditor(editor: Editor) {
  provide(KEY, editor)
}
