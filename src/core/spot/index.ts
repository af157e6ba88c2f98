export { type Spot, spotSchema, suggestFormName, type SpotKind, spotKinds } from './spot'
