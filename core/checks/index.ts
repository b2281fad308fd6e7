import { arrivalOver, arrivalUnder, collapse, drop, powerSag } from './arrival'
import type { Check } from './check'
import { ampacity, copperClad } from './conductor'
import { connectorConductor, connectorHeat, connectorMating, connectorRating, connectorShared, matedTwice } from './connector'
import { dropperDirection, dropperIdle, dropperRating } from './dropper'
import { fuseMissing, fuseNuisance, fuseOverConductor, fusePlace } from './fuse'
import { chargeChemistry, chargeCurrent, chargeRateLow, chargeVoltage, generatorLoad, lithiumCold, loadTerminal, panelColdVoltage, panelCurrent, pwmMismatch, supplyAsCharger, supplyCharge, vehicleEngineOff, ventilation } from './charging'
import { commonGround, nearAntennaLead, noiseKnown, noiseLines, radioOnLoadTerminal } from './noise'
import { membersSum, packsParallel, packsSeries } from './packs'
import { accessoryTransmitter, adaptersInRow, exposedPins, hiddenDiode, hookUpOrder, polarityTrap } from './placement'
import { converterDropout, converterInput, inverterLoad, usbCurrent, usbSleep, usbVoltage } from './power'
import { bmsAsFuse, breakerOverBms, fuseEachConnection, fuseInterrupting, fuseLegs, fuseSelectivity, fuseVoltage, harnessUnfused, shortConductor, stillLive, zoneInsulation } from './protection'
import { partRating, portRating } from './ratings'
import { batteryContinuous, batteryDepth, batteryPeak, island, sourcesJoined, supplyOverload } from './source'

/** Every check there is; a new one is its file and a line here. */
export const CHECKS: readonly Check[] = [
  fuseMissing, fusePlace, fuseOverConductor, fuseNuisance, fuseInterrupting, fuseVoltage, shortConductor, fuseSelectivity, fuseLegs, fuseEachConnection, harnessUnfused,
  bmsAsFuse, breakerOverBms, stillLive,
  ampacity, copperClad, zoneInsulation,
  arrivalUnder, arrivalOver, collapse, drop, powerSag,
  batteryPeak, batteryContinuous, batteryDepth, supplyOverload, sourcesJoined, island,
  packsParallel, packsSeries, membersSum,
  converterInput, converterDropout, usbVoltage, usbCurrent, usbSleep, inverterLoad,
  panelColdVoltage, panelCurrent, pwmMismatch, chargeChemistry, chargeVoltage, chargeCurrent, chargeRateLow, lithiumCold, ventilation,
  loadTerminal, vehicleEngineOff, supplyCharge, supplyAsCharger, generatorLoad,
  partRating, portRating,
  connectorMating, connectorRating, connectorHeat, connectorConductor, matedTwice,
  accessoryTransmitter, adaptersInRow, exposedPins, polarityTrap, connectorShared, hookUpOrder,
  noiseKnown, noiseLines, radioOnLoadTerminal, nearAntennaLead, commonGround,
  hiddenDiode, dropperIdle, dropperRating, dropperDirection,
]
