import type { GlobalThemeOverrides } from 'naive-ui';
import type { PaletteColor } from '../device/room-light';

/** The one look of all controls. The component library mixes colours, so it must be told them as numbers. */
export function themeOverrides(color: PaletteColor): GlobalThemeOverrides {
  const [ink, paper, tail] = [color('ink'), color('paper'), color('tail')];
  return {
    common: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
      fontSize: '16px',
      primaryColor: tail,
      primaryColorHover: color('tail-hover'),
      primaryColorPressed: color('tail-pressed'),
      primaryColorSuppl: tail,
      errorColor: color('kite-deep'),
      errorColorHover: color('kite-deep-hover'),
      errorColorPressed: color('kite-deep-pressed'),
      textColorBase: ink,
      textColor1: ink,
      textColor2: ink,
      textColor3: color('ink-soft'),
      placeholderColor: color('ink-faint'),
      borderColor: color('field-line'),
      bodyColor: color('sail'),
      cardColor: paper,
      modalColor: paper,
      popoverColor: paper,
      borderRadius: '10px',
    },
    Form: { labelFontSizeTopMedium: '16px' },
    Button: { fontSizeMedium: '15px', heightMedium: '38px' },
  };
}
