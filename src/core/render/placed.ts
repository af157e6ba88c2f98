import type { Answer, AnswerCase, FormContent } from '#core/form'
import type { FormId, SpotId } from '#core/ids'
import type { PictureUse } from '#core/picture'
import type { textsOf } from '#core/texts'

/** Rules and texts for the visitors' script. */
export interface FormSettings {
  fields: FormContent['fields']
  texts: ReturnType<typeof textsOf>
  answers: Partial<Record<AnswerCase, Answer>>
  /** The words of a link to the owner's page that answers; `{place}` stands for it. */
  onward?: string
  /** The button below an answer that a mail follows, and what stands in its place once it was pressed. */
  again?: { press: string; done: string }
}

/** A form's content at one place, with all that the code on the page has to say about itself. */
export interface PlacedForm {
  content: FormContent
  form: FormId
  /** The version that the content is, or is going to be. */
  version: number
  spot: SpotId
  /** Where the receiver is reached by visitors, without a slash at the end. */
  receiver: string
  /** Answers for the visitors' script: all where they are known whole, else only the owner's. */
  answers?: FormSettings['answers'] | undefined
  /** Where a picture is found; at the receiver, unless a preview says otherwise. */
  pictureAddress?: (picture: PictureUse) => string
  /** For pictures of the form, which load nothing from other hosts: words take the video's place in its frame. */
  showsNoVideo?: boolean
}
