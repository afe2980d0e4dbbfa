import '@mantine/core/styles.css'
import './page.css'
import { createTheme, MantineProvider } from '@mantine/core'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { App } from './App.tsx'

const theme = createTheme({
  fontFamily: "'DejaVu Sans', Verdana, sans-serif",
  fontFamilyMonospace: "'DejaVu Sans Mono', Consolas, monospace",
  primaryColor: 'sea',
  primaryShade: { light: 7, dark: 7 },
  autoContrast: true,
  defaultRadius: 2,
  colors: {
    sea: ['#e6f1f6', '#cfe3ec', '#a9ccdc', '#7fb3ca', '#6fb0cc', '#3f87a8', '#2f7697', '#1f5f7e', '#174a63', '#10374a'],
  },
})

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <App />
    </MantineProvider>
  </StrictMode>,
)
