export { type Spot, spotSchema, suggestFormName, type SpotKind, spotKinds, spotName } from './spot'
