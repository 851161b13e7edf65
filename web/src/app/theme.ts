import type { GlobalThemeOverrides } from 'naive-ui';

/** The palette of `palette.css` for the component library. */
export const theme: GlobalThemeOverrides = {
  common: {
    fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
    fontSize: '16px',
    primaryColor: '#12776F',
    primaryColorHover: '#0E625B',
    primaryColorPressed: '#0B4E49',
    primaryColorSuppl: '#12776F',
    errorColor: '#B8371D',
    errorColorHover: '#9E2F19',
    errorColorPressed: '#842715',
    textColorBase: '#1F2A44',
    textColor1: '#1F2A44',
    textColor2: '#1F2A44',
    textColor3: '#56607A',
    placeholderColor: '#6B7389',
    borderColor: '#CFC4AD',
    bodyColor: '#FAF6EC',
    cardColor: '#FFFDF7',
    modalColor: '#FFFDF7',
    popoverColor: '#FFFDF7',
    borderRadius: '10px',
  },
  Form: { labelFontSizeTopMedium: '16px' },
};
