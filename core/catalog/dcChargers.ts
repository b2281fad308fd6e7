/** Charge currents that DC-DC chargers are sold with, A (typical of the class). */
export const DC_CHARGERS_A = [5, 6, 8, 10, 15, 20, 25, 30, 40] as const

/**
 * What a DC-DC charger takes for each ampere it gives: its losses, and a starter battery under what it charges to (90 %
 * efficiency, 14.4 V out of 12.3 V).
 */
export const DC_CHARGER_TAKES = 1.3
