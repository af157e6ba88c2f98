import { parseEmail } from '#core/email'
import type { ArrivalId, FormId, ListId, MemberId, SpotId } from '#core/ids'
import type { Entry, SentMessage } from '#core/journal'

type Unnumbered<One = Entry> = One extends Entry ? Omit<One, 'n'> : never

interface Written {
  hoursBefore: number
  from: string
  subject?: string
  text: string
  joins?: true
  held?: SentMessage['held']
}

const written: readonly Written[] = [
  {
    hoursBefore: 480,
    from: 'maud.harrow@hillmail.example',
    subject: 'Wheelchair',
    text: 'Is the track to the dome passable with a wheelchair? My father saw the comet from your field in 1957 and would like to look once more.',
    joins: true,
  },
  {
    hoursBefore: 318,
    from: 'jory.vesely@school.example',
    text: 'I teach nine-year-olds in Quarry Lane. They have built a sundial, and it is wrong by forty minutes. Could somebody on the hill tell us why, in words for nine-year-olds?',
  },
  {
    hoursBefore: 197,
    from: 'elspeth.rowe@letters.example',
    subject: 'A lens in our attic',
    text: 'We found a lens of about twenty centimetres in our attic, in a box that says “postmaster, 1931”.\n\nDoes it belong to you?\n\nIt is heavy, and the cat likes it.',
    joins: true,
  },
  {
    hoursBefore: 76,
    from: 'tariq.holm@mail.example',
    subject: 'Red lamps',
    text: 'You say red lamps only. Does a bicycle’s back light do?',
  },
  {
    hoursBefore: 51,
    from: 'promo1@bulk.example',
    subject: 'Your site on page one',
    text: 'Dear site owner, we bring your site to page one of every search within fourteen days, or your money back. Answer today for a special price.',
    held: 'trap',
  },
  {
    hoursBefore: 29,
    from: 'offers@page-one.example',
    subject: 'Grow your site',
    text: 'We looked at your site and found eleven mistakes that cost you visitors. Our report is free of charge, and we only need a minute of your time.',
    held: 'alike',
  },
  {
    hoursBefore: 6,
    from: 'priya.okafor@post.example',
    text: 'Thank you for last Friday. The little one now says good night to Saturn.',
  },
]

/** What visitors wrote by the form on the observatory's page about itself: most of it read, two held back. */
export function demoMessages({
  form,
  spot,
  list,
  page,
  end,
  wording,
}: {
  form: FormId
  spot: SpotId
  list: ListId
  page: string
  /** Milliseconds since 1970. */
  end: number
  /** Beside the box that joins. */
  wording: string
}): Unnumbered[] {
  return written.flatMap(({ hoursBefore, from, subject = '', text, joins, held }, number): Unnumbered[] => {
    const parsed = parseEmail(from)
    const email = parsed.ok ? parsed.email : null
    const at = new Date(end - hoursBefore * 3_600_000).toISOString()
    const ofBoth = { at, spot, form, version: 1, list }
    const message: Unnumbered = {
      ...ofBoth,
      kind: 'message',
      id: `demomessage${number}` as ArrivalId,
      member: null,
      joins: joins ?? false,
      ...(held !== undefined && { held }),
      personal: { email, subject, text, answers: [], page },
    }
    const arrival: Unnumbered = {
      ...ofBoth,
      kind: 'arrival',
      id: `demowriter${number}` as ArrivalId,
      verdict: 'joined',
      viewed: true,
      member: `demowriter${number}` as MemberId,
      personal: { email, values: {}, consents: [{ field: 'join-box', wording }], page },
    }
    return joins ? [message, arrival] : [message]
  })
}
