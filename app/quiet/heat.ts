/** Colour of a waterfall's level, 0 to 255: from dark to copper. */
export const heat = (v: number): [number, number, number, number] => [20 + v * 0.9, 28 + v * 0.5, 34 + v * 0.22, 255]
