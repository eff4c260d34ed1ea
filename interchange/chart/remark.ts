/** What is to be said of a chart. */
export interface ChartRemark {
  code:
    | 'empty' | 'too long' | 'one column' | 'uneven lines' | 'no thresholds' | 'unreadable' | 'mixed units' | 'several things' | 'beside the chart'
    /** One threshold twice with one result, or with two. */
    | 'repeated' | 'contradiction' | 'overlap'
    /** Between whole numbers, or more. */
    | 'step hole' | 'hole' | 'shared edge' | 'not low enough' | 'not in order' | 'upside down' | 'single value'
  severity: 'error' | 'warning' | 'note'
  message: string
  /** Counted from 1; null where it is about all of the chart. */
  row: number | null
  column: number | null
}

export function remark(code: ChartRemark['code'], severity: ChartRemark['severity'], message: string, row: number | null = null, column: number | null = null): ChartRemark {
  return { code, severity, message, row, column }
}
