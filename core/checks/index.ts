import { alternatorOverdrawn } from './alternator'
import { arrivalOver, arrivalUnder, drop } from './arrival'
import { collapse, powerSag } from './sag'
import type { Check } from './check'
import { ampacity, copperClad } from './conductor'
import { connectorConductor, connectorMating, connectorRating, connectorShared } from './connector'
import { matedTwice } from './connectorCrowded'
import { connectorHeat } from './connectorHeat'
import { dropperDirection, dropperIdle, dropperRating } from './dropper'
import { fuseMissing, fuseNuisance, fuseOverConductor, fusePlace } from './fuse'
import { chargeChemistry, chargeVoltage } from './chargeLimits'
import { chargeCurrent, chargeRateLow } from './chargeRate'
import { generatorLoad, supplyAsCharger, supplyCharge, vehicleEngineOff } from './otherChargers'
import { lithiumCold, ventilation } from './charging'
import { loadCutOff, loadTerminal, loadTimer } from './loadTerminal'
import { panelColdVoltage, panelCurrent, pwmMismatch } from './panels'
import { commonGround, nearAntennaLead, noiseKnown, noiseLines, radioOnLoadTerminal } from './noise'
import { membersSum, packsSeries } from './packsSeries'
import { packsParallel } from './packs'
import { accessoryTransmitter, adaptersInRow, exposedPins, polarityTrap } from './placement'
import { hiddenDiode, hookUpOrder } from './hookUp'
import { converterDropout, converterInput, usbCurrent, usbSleep, usbVoltage } from './power'
import { bmsAsFuse, breakerOverBms } from './bms'
import { fuseEachConnection, fuseLegs, harnessUnfused } from './fuseLegs'
import { fuseInterrupting, fuseVoltage } from './interrupting'
import { fuseSelectivity, shortConductor } from './protection'
import { stillLive, zoneInsulation } from './isolation'
import {
  chargedElsewhere,
  chargerLoop,
  chargerUnset,
  panelDirect,
  sourceOverBattery,
  stringsUnfused,
} from './onBattery'
import { fuseOverContact } from './fuseContact'
import { batteryFreezes } from './cold'
import { panelMembers } from './panelMembers'
import { panelHotVoltage } from './sun'
import { panelConductor, panelStrings } from './sunLeads'
import { partRating, partWindow, portRating } from './ratings'
import { batteryContinuous, batteryDepth, batteryPeak, supplyOverload } from './source'
import { itemRating } from './itemRatings'
import { island, sourcesJoined } from './joined'
import { inverterLoad, inverterSurge, inverterUnsaid } from './inverters'
import { monitorShunt, monitorThreshold } from './monitors'
import { gateGap, gateTransfer } from './gateChange'
import { bothLegsAsked, shieldReturn, socketFuse } from './wayHome'
import { ownPackUncharged } from './ownPack'

/** Every check there is; a new one is its file and a line here. */
export const CHECKS: readonly Check[] = [
  fuseMissing,
  fusePlace,
  fuseOverConductor,
  fuseNuisance,
  fuseInterrupting,
  fuseVoltage,
  shortConductor,
  fuseSelectivity,
  fuseLegs,
  shieldReturn,
  bothLegsAsked,
  socketFuse,
  fuseEachConnection,
  harnessUnfused,
  bmsAsFuse,
  breakerOverBms,
  stillLive,
  ampacity,
  copperClad,
  zoneInsulation,
  arrivalUnder,
  arrivalOver,
  collapse,
  drop,
  powerSag,
  batteryPeak,
  batteryContinuous,
  batteryDepth,
  batteryFreezes,
  supplyOverload,
  sourcesJoined,
  island,
  packsParallel,
  packsSeries,
  membersSum,
  converterInput,
  converterDropout,
  usbVoltage,
  usbCurrent,
  usbSleep,
  inverterLoad,
  inverterSurge,
  inverterUnsaid,
  gateTransfer,
  gateGap,
  monitorThreshold,
  monitorShunt,
  ownPackUncharged,
  panelColdVoltage,
  panelHotVoltage,
  panelCurrent,
  panelConductor,
  panelStrings,
  panelMembers,
  pwmMismatch,
  panelDirect,
  sourceOverBattery,
  chargerUnset,
  chargeChemistry,
  chargeVoltage,
  chargeCurrent,
  chargeRateLow,
  lithiumCold,
  ventilation,
  loadTerminal,
  loadCutOff,
  loadTimer,
  vehicleEngineOff,
  alternatorOverdrawn,
  chargerLoop,
  chargedElsewhere,
  stringsUnfused,
  supplyCharge,
  supplyAsCharger,
  generatorLoad,
  itemRating,
  partRating,
  portRating,
  partWindow,
  connectorMating,
  connectorRating,
  fuseOverContact,
  connectorHeat,
  connectorConductor,
  matedTwice,
  accessoryTransmitter,
  adaptersInRow,
  exposedPins,
  polarityTrap,
  connectorShared,
  hookUpOrder,
  noiseKnown,
  noiseLines,
  radioOnLoadTerminal,
  nearAntennaLead,
  commonGround,
  hiddenDiode,
  dropperIdle,
  dropperRating,
  dropperDirection,
]
