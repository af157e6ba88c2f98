export { baseOptions, colour, drawAllCharts, loadCharts, othersColour, partColours, tooltip } from './chart'
export { colourPlaces } from './part-colours'
export { shortDay, shownPeriod } from './days'
export { providePeriod, useReport, useReportPart } from './report'
