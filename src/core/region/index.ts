export { countriesOf, countryOf, type RegionGroup, regionGroups, type Whereabouts } from './region'
