/** Nothing in it but words: "(negative ground)". */
const IN_BRACKETS = /\([^()\d]*\)/g
const ABOUT = /[≈~]|\b(?:about|around|approx(?:imately)?|circa|ca)\b\.?/gi
/** "13.8 V DC", "13.8VDC", "DC 13.8 V" */
const DIRECT = /(^|[VA\d\s])DC(?![a-z])\.?/gi
const BOUND = /\b(?:max(?:imum)?|typ(?:ical)?|nom(?:inal)?|rated|peak|pep)\b\.?/gi

/** A figure without what a manual or a label prints beside it: "13.8 V DC", "21 A max.", "≈ 2 A". */
export const withoutRemarks = (text: string): string =>
  text.replace(IN_BRACKETS, ' ').replace(ABOUT, ' ').replace(DIRECT, '$1').replace(BOUND, ' ')
