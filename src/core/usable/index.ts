export { setControl } from './set-control'
export { buttonOf, type Fill, filledIn, fillsOf, formWith } from './fill'
export { obstacleIn } from './obstacle'
export { holdsAt, type Visibility, visibilityOn } from './visibility'
