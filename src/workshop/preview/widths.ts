/** Widths that forms are looked at in, as places on sites have them, in CSS pixels. */
export const widthStops = [
  { width: 280, name: 'Side column' },
  { width: 360, name: 'Phone' },
  { width: 680, name: 'Text column' },
  { width: 1100, name: 'Footer' },
  { width: 1280, name: 'Page' },
] as const
