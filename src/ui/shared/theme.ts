import { type ThemeConfig, theme } from 'antd';
import type { Light } from './light';
import { LOOK } from './look';

/** The component library in our look. @param still reduced motion: a list that waits for an animation which the style sheet has switched off never opens */
export function componentTheme(light: Light, still: boolean): ThemeConfig {
  const look = LOOK[light];
  return {
    hashed: false,
    // A key of its own for each theme: under one key, buttons keep the colours of the theme that they were first drawn in.
    cssVar: { key: light },
    algorithm: light === 'night' ? theme.darkAlgorithm : theme.defaultAlgorithm,
    token: {
      colorPrimary: look.river,
      colorPrimaryHover: look['river-strong'],
      colorPrimaryActive: look['river-strong'],
      colorInfo: look.river,
      colorSuccess: look.moss,
      colorWarning: look.amber,
      colorError: look.clay,
      colorLink: look.river,
      colorTextBase: look.ink,
      colorText: look.ink,
      colorTextHeading: look.ink,
      colorTextDescription: look['ink-2'],
      colorTextQuaternary: look['ink-3'],
      colorBgContainer: look.surface,
      colorInfoBg: look['river-mist'],
      colorSuccessBg: look['moss-soft'],
      colorWarningBg: look['amber-soft'],
      colorErrorBg: look['clay-soft'],
      colorBgBase: look.surface,
      colorBorder: look['ink-3'],
      colorBgLayout: look.paper,
      colorBgElevated: look.surface,
      colorTextPlaceholder: look['ink-3'],
      fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif",
      fontSize: 15,
      borderRadius: 10,
      controlHeight: 36,
      wireframe: false,
      motionDurationMid: '0.12s',
      motion: !still,
    },
    components: {
      Button: {
        borderRadius: 18,
        borderRadiusLG: 22,
        borderRadiusSM: 14,
        fontWeight: 600,
        primaryShadow: 'none',
        defaultShadow: 'none',
        dangerShadow: 'none',
        primaryColor: look['on-river'],
        dangerColor: look['on-clay'],
        defaultBorderColor: look.edge,
      },
      Segmented: {
        trackBg: look.sunken,
        trackPadding: 3,
        itemColor: look.ink,
        itemSelectedBg: look['river-soft'],
        itemSelectedColor: look['river-strong'],
        itemHoverBg: look['river-mist'],
      },
      Slider: {
        railBg: look.sunken,
        railHoverBg: look.sunken,
        trackBg: look.river,
        trackHoverBg: look.river,
        handleColor: look.river,
        handleActiveColor: look['river-strong'],
        handleSize: 16,
        handleSizeHover: 18,
        railSize: 6,
      },
      Radio: { buttonSolidCheckedBg: look.river },
      Collapse: { headerPadding: '6px 0', contentPadding: '4px 0 8px' },
      Modal: { contentBg: look.surface, headerBg: look.surface },
      Table: {
        headerBg: look.sunken,
        headerSplitColor: 'transparent',
        borderColor: look.line,
        rowHoverBg: look['river-mist'],
      },
      Select: {
        optionSelectedBg: look['river-soft'],
        optionSelectedColor: look['river-strong'],
        optionActiveBg: look['river-mist'],
        selectorBg: look.surface,
      },
    },
  };
}
