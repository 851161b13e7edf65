import type { GlobalThemeOverrides } from 'naive-ui';

/** The colours of `palette.css` that the component library reckons with: it mixes them, so it must be told them as numbers. */
const COLORS = {
  bright: {
    ink: '#1F2A44',
    soft: '#56607A',
    placeholder: '#6B7389',
    border: '#CFC4AD',
    body: '#FAF6EC',
    paper: '#FFFDF7',
    tail: ['#12776F', '#0E625B', '#0B4E49'],
    kite: ['#B8371D', '#9E2F19', '#842715'],
  },
  dark: {
    ink: '#ECE6D8',
    soft: '#AAB2C5',
    placeholder: '#9AA3B8',
    border: '#4C5670',
    body: '#171C2A',
    paper: '#1F2536',
    tail: ['#56B8AE', '#74C9C0', '#46A298'],
    kite: ['#FF9D86', '#FFB3A1', '#F0765C'],
  },
} as const;

/** The one look of all controls, in a bright or a dark room. */
export function themeOverrides(room: 'bright' | 'dark'): GlobalThemeOverrides {
  const { ink, soft, placeholder, border, body, paper, tail, kite } = COLORS[room];
  return {
    common: {
      fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
      fontSize: '16px',
      primaryColor: tail[0],
      primaryColorHover: tail[1],
      primaryColorPressed: tail[2],
      primaryColorSuppl: tail[0],
      errorColor: kite[0],
      errorColorHover: kite[1],
      errorColorPressed: kite[2],
      textColorBase: ink,
      textColor1: ink,
      textColor2: ink,
      textColor3: soft,
      placeholderColor: placeholder,
      borderColor: border,
      bodyColor: body,
      cardColor: paper,
      modalColor: paper,
      popoverColor: paper,
      borderRadius: '10px',
    },
    Form: { labelFontSizeTopMedium: '16px' },
    Button: { fontSizeMedium: '15px', heightMedium: '38px' },
  };
}
