/**
 * Tightening torque of a steel or brass stud with an M thread, N·m (typical of battery studs; the maker's figure goes
 * first).
 */
export const STUD_TORQUE_NM: Record<string, number> = {
  'ring-m4': 1.5,
  'ring-m5': 3,
  'ring-m6': 5,
  'ring-m8': 11,
  'ring-m10': 20,
}
