import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

/** Petrol, the one colour of action. */
const petrol = {
  50: '#eaf4f5', 100: '#cfe4e7', 200: '#a3cbd1', 300: '#6fadb7', 400: '#3f8e9b', 500: '#1d7282',
  600: '#0b5d6c', 700: '#0a4d5a', 800: '#0b3f49', 900: '#0b343d', 950: '#062128',
} // prettier-ignore

/** Warm paper to near-black ink. */
const paper = {
  0: '#fffdf8', 50: '#faf7f0', 100: '#f3eee3', 200: '#e7e0d1', 300: '#d3cab7', 400: '#a89d88',
  500: '#7a705e', 600: '#5d5546', 700: '#443e33', 800: '#2e2a23', 900: '#211e19', 950: '#171612',
} // prettier-ignore

/** Our own preset: square-shouldered, dense, petrol on paper. */
export const benchPreset = definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '3px', md: '4px', lg: '6px', xl: '8px' } },
  semantic: {
    primary: petrol,
    focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '2px' },
    formField: {
      paddingX: '0.65rem',
      paddingY: '0.6rem',
      borderRadius: '{border.radius.md}',
      focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '-1px', shadow: 'none' },
    },
    colorScheme: {
      light: {
        surface: paper,
        primary: {
          color: '{primary.600}',
          contrastColor: '#ffffff',
          hoverColor: '{primary.700}',
          activeColor: '{primary.800}',
        },
        formField: {
          background: '#fffdf8',
          borderColor: '#8b806c',
          hoverBorderColor: '#5d5546',
          placeholderColor: '#6d6453',
          color: '#1b1a17',
        },
        text: { color: '#1b1a17', mutedColor: '#5d5546' },
      },
      dark: {
        surface: paper,
        primary: {
          color: '{primary.300}',
          contrastColor: '#062128',
          hoverColor: '{primary.200}',
          activeColor: '{primary.100}',
        },
        formField: {
          background: '#211e19',
          borderColor: '#7a705e',
          hoverBorderColor: '#a89d88',
          placeholderColor: '#a89d88',
          color: '#efe9dc',
        },
        text: { color: '#efe9dc', mutedColor: '#b8ae9a' },
      },
    },
  },
  // Where the stock colours do not reach 4.5:1 on our paper.
  components: {
    togglebutton: {
      colorScheme: {
        light: { root: { color: '#5d5546', hoverColor: '#1b1a17', checkedColor: '#1b1a17' } },
        dark: { root: { color: '#b8ae9a', hoverColor: '#efe9dc', checkedColor: '#efe9dc' } },
      },
    },
    button: {
      colorScheme: {
        light: {
          root: {
            secondary: {
              background: '#fffdf8',
              borderColor: '#8b806c',
              color: '#1b1a17',
              hoverBackground: '#efe9dc',
              hoverBorderColor: '#5d5546',
              hoverColor: '#1b1a17',
            },
            danger: {
              background: '#9c2a1c',
              borderColor: '#9c2a1c',
              color: '#ffffff',
              hoverBackground: '#832215',
              hoverBorderColor: '#832215',
              hoverColor: '#ffffff',
              activeBackground: '#6b1b10',
              activeBorderColor: '#6b1b10',
              activeColor: '#ffffff',
            },
          },
          text: { danger: { color: '#9c2a1c' }, secondary: { color: '#5d5546' } },
        },
        dark: {
          root: {
            secondary: {
              background: '#211e19',
              borderColor: '#7a705e',
              color: '#efe9dc',
              hoverBackground: '#2e2a23',
              hoverBorderColor: '#a89d88',
              hoverColor: '#efe9dc',
            },
            danger: {
              background: '#f2988a',
              borderColor: '#f2988a',
              color: '#2a0f0b',
              hoverBackground: '#f6b3a8',
              hoverBorderColor: '#f6b3a8',
              hoverColor: '#2a0f0b',
              activeBackground: '#f9cdc5',
              activeBorderColor: '#f9cdc5',
              activeColor: '#2a0f0b',
            },
          },
          text: { danger: { color: '#f2988a' }, secondary: { color: '#b8ae9a' } },
        },
      },
    },
  },
})
