import type { Light } from './light';

/** The colours of both themes, once: style sheets have them as `--paper` and so on, the component library as its tokens. */
export const LOOK = {
  day: {
    paper: '#f6f2e9',
    surface: '#fffdf8',
    sunken: '#ede7d9',
    line: '#ddd5c3',
    edge: '#a9a28f',
    ink: '#17292b',
    'ink-2': '#4c5d5a',
    'ink-3': '#66746f',
    'on-river': '#ffffff',
    // The four tracks, the same on every stage.
    river: '#17625f',
    'river-strong': '#0f4a49',
    'river-soft': '#cfe3dd',
    'river-mist': '#e6f0ea',
    moss: '#4d6a22',
    'moss-soft': '#e2ebcd',
    heron: '#3a6a8f',
    'heron-soft': '#d5e3ee',
    plum: '#7a4a72',
    'plum-soft': '#ecdcea',
    // Only for warning and danger.
    amber: '#8a5909',
    'amber-soft': '#f7e6bf',
    clay: '#b1452b',
    'clay-soft': '#f6ded4',
    'on-clay': '#ffffff',
    // What lies over a picture is the same in both themes.
    stage: '#101c1d',
    'on-stage': '#b9c8c2',
    drawn: '#17625f',
    'drawn-on': '#fffdf8',
    shade: '#17292b',
    shadow: '0 1px 3px rgb(23 41 43 / 0.08)',
  },
  night: {
    paper: '#0f1b1c',
    surface: '#16282a',
    sunken: '#0b1415',
    line: '#2f494b',
    edge: '#5d7976',
    ink: '#eef3ec',
    'ink-2': '#b9c8c2',
    'ink-3': '#93a5a0',
    'on-river': '#06201f',
    river: '#6cc3b4',
    'river-strong': '#9adccf',
    'river-soft': '#1f4f4c',
    'river-mist': '#183739',
    moss: '#b3d07d',
    'moss-soft': '#33451f',
    heron: '#86b8dc',
    'heron-soft': '#1f3d54',
    plum: '#d3a2ca',
    'plum-soft': '#462f43',
    amber: '#e3b35a',
    'amber-soft': '#43351a',
    clay: '#ec8a6c',
    'clay-soft': '#47261c',
    'on-clay': '#2a0e06',
    // What lies over a picture is the same in both themes.
    stage: '#101c1d',
    'on-stage': '#b9c8c2',
    drawn: '#17625f',
    'drawn-on': '#fffdf8',
    shade: '#000000',
    shadow: 'none',
  },
} as const satisfies Record<Light, Record<string, string>>;

/** A theme's colours as the custom properties of the page. */
export const lookProperties = (light: Light): Record<string, string> => ({
  ...Object.fromEntries(Object.entries(LOOK[light]).map(([name, value]) => [`--${name}`, value])),
  colorScheme: light === 'day' ? 'light' : 'dark',
});
