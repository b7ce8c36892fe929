import { createTheme, type MantineColorsTuple, Modal, Notification } from '@mantine/core'

const rail: MantineColorsTuple = [
  '#eef5f7',
  '#dce8eb',
  '#b9d2d9',
  '#94bac5',
  '#7fb7c9',
  '#4f8ba0',
  '#356f85',
  '#24566b',
  '#1d4757',
  '#163642',
]

const night: MantineColorsTuple = [
  '#e8ecef',
  '#c4ccd3',
  '#a9b5c0',
  '#94a1ae',
  '#3a4855',
  '#2b3742',
  '#1d2832',
  '#18212a',
  '#131b22',
  '#11181f',
]

export const theme = createTheme({
  primaryColor: 'rail',
  primaryShade: { light: 7, dark: 4 },
  colors: { rail, dark: night },
  autoContrast: true,
  luminanceThreshold: 0.3,
  fontFamily: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif",
  fontFamilyMonospace: "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace",
  defaultRadius: 'md',
  components: {
    Modal: Modal.extend({ defaultProps: { closeButtonProps: { 'aria-label': 'Close' } } }),
    Notification: Notification.extend({ defaultProps: { closeButtonProps: { 'aria-label': 'Close this message' } } }),
  },
  fontSizes: { sm: '0.84rem', md: '0.9rem' },
})
