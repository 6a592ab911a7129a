import { theme as ant } from 'ant-design-vue'
import type { ThemeConfig } from 'ant-design-vue/es/config-provider/context'
import { computed, ref, watchEffect } from 'vue'

export type ThemeName = 'slip' | 'kiln'

const kept = localStorage.getItem('keencrock-theme')
export const themeName = ref<ThemeName>(kept === 'kiln' ? 'kiln' : 'slip')

watchEffect(() => {
  document.documentElement.dataset.theme = themeName.value
  localStorage.setItem('keencrock-theme', themeName.value)
})

export function switchTheme() {
  themeName.value = themeName.value === 'slip' ? 'kiln' : 'slip'
}

const shared = {
  borderRadius: 3,
  fontFamily: 'var(--text)',
  fontSize: 15,
  controlHeight: 36,
  wireframe: false,
}

/** The component library in the colours of tokens.css. */
export const antTheme = computed<ThemeConfig>(() =>
  themeName.value === 'slip'
    ? {
        token: {
          ...shared,
          colorPrimary: '#27457F',
          colorSuccess: '#6F9A86',
          colorWarning: '#C98A1B',
          colorError: '#9B2D30',
          colorTextBase: '#2B2622',
          colorBgBase: '#FDFAF3',
          colorBorder: '#B79B7A',
          colorTextPlaceholder: '#7A6F63',
          boxShadow: 'none',
          boxShadowSecondary: '0 2px 8px rgba(43, 38, 34, 0.14)',
        },
      }
    : {
        algorithm: ant.darkAlgorithm,
        token: {
          ...shared,
          colorPrimary: '#9DB6E8',
          colorSuccess: '#86B69F',
          colorWarning: '#E0A43A',
          colorError: '#E58785',
          colorTextBase: '#EFE6D6',
          colorBgBase: '#1F1B18',
          colorBorder: '#6B5A48',
          colorTextPlaceholder: '#A09383',
          colorTextLightSolid: '#17202F',
          boxShadow: 'none',
        },
      },
)
