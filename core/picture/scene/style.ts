/** How the shapes of a scene look, by their classes: once, for the page and for exported pictures. */

const MARK = `
.mark { display: inline-block; flex: none; overflow: visible; }
.mark.danger { fill: var(--danger); }
.mark.fail { fill: var(--fail); }
.mark.caution { fill: var(--caution); }
.mark.note { fill: var(--note); }
.mark .sign { stroke: var(--sheet); stroke-width: 2.4; stroke-linecap: round; fill: none; }
.mark .hollow { fill: none; stroke: var(--pass); stroke-width: 2.2; }
`

const ARRIVAL = `
.arrival .window { fill: var(--window); }
.arrival .edge { stroke: var(--window-edge); stroke-width: 2; }
.arrival .span { stroke: var(--ink); stroke-width: 8; stroke-linecap: round; }
.arrival .span.faint { stroke: var(--ink-3); opacity: 0.55; }
.arrival .out { stroke-width: 8; stroke-linecap: butt; }
.arrival .out.fail { stroke: var(--fail); }
.arrival .out.caution { stroke: var(--caution); }
.arrival .tip.fail { fill: var(--fail); }
.arrival .tip.caution { fill: var(--caution); }
.arrival .now { fill: var(--sheet); stroke: var(--ink); stroke-width: 3; }
.arrival .volts { font-size: 11.5px; fill: var(--ink-2); }
.arrival .volts.fail { fill: var(--fail); font-weight: 700; }
.arrival .volts.caution { fill: var(--caution); font-weight: 700; }
`

const PATH = `
.path { display: block; font-size: 13px; }
.path .ground { fill: var(--paper); }
.path .small { font-size: 11.5px; fill: var(--ink-3); }
.path .mind { font-size: 11.5px; fill: var(--ink-2); text-decoration: underline; }
.path .name { font-size: 13.5px; font-weight: 650; fill: var(--ink); }
.path .name2 { font-size: 12px; fill: var(--ink); }
.path .figure { font-size: 13px; font-weight: 650; fill: var(--ink); }
.path .axis line { stroke: var(--line-2); stroke-dasharray: 1 5; }
.path .chosen { fill: var(--sheet); stroke: var(--ink-2); stroke-dasharray: 2 3; }
.path .rule { stroke: var(--line); }
.path .hit { fill: transparent; }
.path .copper { fill: none; stroke: var(--copper); }
.path .tie .copper { stroke: var(--copper-faint); }
.path .open .copper { stroke: var(--copper-faint); stroke-dasharray: 7 5; }
.path .grab { fill: none; stroke: transparent; stroke-width: 18; }
.path .halo { fill: none; stroke: transparent; }
.path .selected > g > .halo { stroke: var(--focus); opacity: 0.28; }
.path .lit > g > .halo { stroke: var(--caution); opacity: 0.35; }
.path .off > g:first-child, .path .off > text { opacity: 0.35; }
.path .hot .copper { stroke: var(--fail); }
.path .burnt .copper { stroke: var(--danger); stroke-dasharray: 2 4; }
.path .bolt circle { fill: var(--fail); stroke: var(--sheet); stroke-width: 2; }
.path .bolt path { fill: var(--sheet); }
.path .end { fill: var(--ink); }
.path .unprotected { stroke: var(--ink-3); stroke-width: 1.6; stroke-dasharray: 4 3; fill: none; }
.path .unprotected.bad { stroke: var(--danger); stroke-width: 2.4; }
.path .item .body { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.6; }
.path .item text, .path .port text { font-size: 12px; font-weight: 650; fill: var(--ink); }
.path .item.dropper .body { fill: var(--ink); }
.path .box > rect, .path .bar > g > rect { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.6; }
.path .box.selected > rect, .path .bar.selected > g:first-child > rect { stroke: var(--focus); stroke-width: 3; }
.path .box.lit > rect, .path .bar.lit > g:first-child > rect { fill: var(--lit); }
.path .row.lit .hit { fill: var(--lit); opacity: 0.6; }
.path .row.selected .name {
  text-decoration: underline; text-underline-offset: 3px;
  text-decoration-color: var(--focus); text-decoration-thickness: 2px;
}
.path .port rect { fill: var(--sheet); stroke: var(--ink); stroke-width: 1.4; }
.path .port.lit rect { fill: var(--lit); stroke: var(--caution); stroke-width: 2.4; }
.path .port.free rect { stroke-dasharray: 3 3; stroke: var(--ink-3); }
.path .port .dot { fill: var(--ink); }
.path .port .plus { font-size: 15px; fill: var(--ink-3); }
.path .item .opens, .path .port .opens { fill: var(--pass); }
`

/** What stands still: for the page and for exported pictures. */
export const SCENE_CSS = MARK + ARRIVAL + PATH

/** What answers to a hand: for the page alone. */
export const TOUCH_CSS = `
.path text { paint-order: stroke; stroke: var(--paper); stroke-width: 3.5px; stroke-linejoin: round; }
.path .box text, .path .item text, .path .port text, .path .arrival text, .path .row text { stroke: none; }
.path { user-select: none; }
.path .lead, .path .item, .path .box, .path .bar, .path .row { cursor: pointer; }
.path .token {
  cursor: text;
  text-decoration: underline dotted var(--line-2); text-underline-offset: 3px;
}
.path .token:hover { fill: var(--focus); text-decoration-color: currentColor; }
`
