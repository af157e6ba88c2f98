export { baseOptions, colour, loadCharts, partColours, tooltip } from './chart'
export { shortDay } from './days'
export { useReport, useReportPart } from './report'
