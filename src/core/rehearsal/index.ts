export { type Fill, fillsOf, setControl } from '#core/usable'
export { refuses } from './visit-findings'
export { completed, PUT_OFF_MS } from './completed'
export { readRehearsalHeader, REHEARSAL_HEADER, rehearsalHeader } from './header'
export { withSeen } from './check'
export { makeProof } from './make'
export { visitOf } from './visit'
export { kindOfCode } from './page'
export {
  type AnsweredPage,
  type As,
  type Browsed,
  type Browser,
  type FetchedPage,
  type FramingBrowser,
  NoAnswer,
  type Obstacle,
  type Ports,
  type MailRead,
  type MailWish,
  type PressSeen,
  type Visited,
  type VisitedPage,
  type VisitingBrowser,
  VISITS_ZONE,
  type VisitWish,
} from './ports'
export { rehearse } from './rehearse'
export { type RehearsalSource, type RehearsalSubject, rehearsalSubject } from './subject'
