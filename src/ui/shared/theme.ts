import { type ThemeConfig, theme } from 'antd';
import type { Light } from './light';

/** The seeds from which the component library derives its colours; the rest of the look is in `app/look.css` and what it names. */
const SEEDS = {
  day: {
    paper: '#f6f2e9',
    surface: '#fffdf8',
    ink: '#17292b',
    line: '#a9a28f',
    river: '#17625f',
    amber: '#8a5909',
    clay: '#b1452b',
    moss: '#4d6a22',
  },
  night: {
    paper: '#0f1b1c',
    surface: '#16282a',
    ink: '#eef3ec',
    line: '#5d7976',
    river: '#6cc3b4',
    amber: '#e3b35a',
    clay: '#ec8a6c',
    moss: '#b3d07d',
  },
} as const;

export function componentTheme(light: Light): ThemeConfig {
  const seed = SEEDS[light];
  return {
    hashed: false,
    algorithm: light === 'night' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: seed.river,
      colorInfo: seed.river,
      colorSuccess: seed.moss,
      colorWarning: seed.amber,
      colorError: seed.clay,
      colorLink: seed.river,
      colorTextBase: seed.ink,
      colorBgBase: seed.surface,
      colorBorder: seed.line,
      colorBgLayout: seed.paper,
      colorBgElevated: seed.surface,
      colorTextPlaceholder: light === 'day' ? '#66746f' : '#93a5a0',
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontSize: 15,
      borderRadius: 10,
      controlHeight: 36,
      wireframe: false,
      motionDurationMid: '0.12s',
    },
    components: {
      Button: {
        borderRadius: 18,
        borderRadiusLG: 22,
        fontWeight: 600,
        primaryShadow: 'none',
        defaultShadow: 'none',
        dangerShadow: 'none',
        primaryColor: light === 'day' ? '#ffffff' : '#06201f',
      },
      Table: {
        headerBg: light === 'day' ? '#ede7d9' : '#0b1415',
        headerSplitColor: 'transparent',
        borderColor: light === 'day' ? '#ddd5c3' : '#2f494b',
        rowHoverBg: light === 'day' ? '#f6f2e9' : '#183739',
      },
      Select: { optionSelectedBg: light === 'day' ? '#cfe3dd' : '#1f4f4c' },
    },
  };
}
