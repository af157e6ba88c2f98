export { type CodeKind, type Spot, spotSchema, suggestFormName, type SpotKind, spotKinds, spotName } from './spot'
