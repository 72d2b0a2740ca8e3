import { definePreset } from "@primeuix/themes";
import autocomplete from "@primeuix/themes/aura/autocomplete";
import base from "@primeuix/themes/aura/base";
import button from "@primeuix/themes/aura/button";
import checkbox from "@primeuix/themes/aura/checkbox";
import datatable from "@primeuix/themes/aura/datatable";
import datepicker from "@primeuix/themes/aura/datepicker";
import dialog from "@primeuix/themes/aura/dialog";
import drawer from "@primeuix/themes/aura/drawer";
import inputtext from "@primeuix/themes/aura/inputtext";
import progressbar from "@primeuix/themes/aura/progressbar";
import radiobutton from "@primeuix/themes/aura/radiobutton";
import select from "@primeuix/themes/aura/select";
import skeleton from "@primeuix/themes/aura/skeleton";
import selectbutton from "@primeuix/themes/aura/selectbutton";
import textarea from "@primeuix/themes/aura/textarea";
import toast from "@primeuix/themes/aura/toast";
import togglebutton from "@primeuix/themes/aura/togglebutton";
import tooltip from "@primeuix/themes/aura/tooltip";

/** One scale from a token of ours: PrimeNG wants eleven steps and is given the same one. */
function flat(colour: string): Record<string, string> {
  const steps = [50, 100, 200, 300, 400, 500, 600, 700, 800, 900, 950];
  return Object.fromEntries(steps.map((s) => [s, colour]));
}

/** Notices by day and by night: ink on a sheet, what they are is said by their edge. */
const notices = Object.fromEntries(
  [
    ["info", "--blue"],
    ["success", "--green"],
    ["warn", "--brass"],
    ["error", "--oxide"],
  ].map(([name, token]) => [
    name,
    {
      ...{ background: "var(--sheet)", color: "var(--ink)", detailColor: "var(--ink)", shadow: "none" },
      borderColor: `var(${token})`,
    },
  ]),
);

const scheme = {
  surface: {
    0: "var(--sheet)",
    50: "var(--paper)",
    100: "var(--paper)",
    200: "var(--rule)",
    300: "var(--rule)",
    400: "var(--graphite)",
    500: "var(--graphite)",
    600: "var(--graphite)",
    700: "var(--ink)",
    800: "var(--ink)",
    900: "var(--ink)",
    950: "var(--ink)",
  },
  primary: {
    color: "var(--blue)",
    contrastColor: "var(--on-blue)",
    hoverColor: "var(--blue)",
    activeColor: "var(--blue)",
  },
  text: {
    color: "var(--ink)",
    hoverColor: "var(--ink)",
    mutedColor: "var(--graphite)",
    hoverMutedColor: "var(--graphite)",
  },
  formField: {
    background: "var(--sheet)",
    borderColor: "var(--graphite)",
    hoverBorderColor: "var(--ink)",
    focusBorderColor: "var(--blue)",
    invalidBorderColor: "var(--oxide)",
    color: "var(--ink)",
    placeholderColor: "var(--graphite)",
    shadow: "none",
    disabledBackground: "var(--paper)",
    disabledColor: "var(--graphite)",
  },
  overlay: {
    modal: {
      background: "var(--sheet)",
      borderColor: "var(--ink)",
      color: "var(--ink)",
    },
  },
  highlight: {
    background: "var(--wash)",
    focusBackground: "var(--wash)",
    color: "var(--ink)",
    focusColor: "var(--ink)",
  },
  list: { option: { focusBackground: "var(--wash)", color: "var(--ink)", focusColor: "var(--ink)" } },
  content: {
    background: "var(--sheet)",
    borderColor: "var(--rule)",
    color: "var(--ink)",
  },
};

/** Paper until touched: a screen has one filled button, that of what it is for. */
const buttons = {
  root: {
    primary: {
      hoverBackground: "color-mix(in srgb, var(--blue) 85%, var(--ink))",
      activeBackground: "color-mix(in srgb, var(--blue) 85%, var(--ink))",
    },
    secondary: {
      background: "transparent",
      hoverBackground: "var(--wash)",
      activeBackground: "var(--wash)",
      borderColor: "var(--ink)",
      hoverBorderColor: "var(--ink)",
      activeBorderColor: "var(--ink)",
      color: "var(--ink)",
      hoverColor: "var(--ink)",
      activeColor: "var(--ink)",
    },
  },
  text: { primary: { hoverBackground: "var(--wash)", activeBackground: "var(--wash)" } },
};

/** Of a few answers the one given stands out; the others are paper. */
const answers = {
  root: {
    background: "transparent",
    hoverBackground: "var(--wash)",
    checkedBackground: "var(--ink)",
    borderColor: "var(--rule)",
    checkedBorderColor: "var(--ink)",
    color: "var(--ink)",
    hoverColor: "var(--ink)",
    checkedColor: "var(--sheet)",
  },
  content: { checkedBackground: "var(--ink)" },
};

/** Where the keyboard is. */
const FOCUS = { width: "3px", style: "solid", color: "var(--blue)", offset: "2px" };

/** PrimeNG in our tokens. Both schemes point at the same names: the night shift changes the names. */
export const ironPreset = definePreset(
  {
    ...base,
    components: {
      autocomplete,
      button,
      checkbox,
      datatable,
      datepicker,
      dialog,
      drawer,
      inputtext,
      progressbar,
      radiobutton,
      select,
      selectbutton,
      skeleton,
      textarea,
      toast,
      togglebutton,
      tooltip,
    },
  },
  {
    primitive: {
      borderRadius: {
        none: "0",
        xs: "2px",
        sm: "2px",
        md: "2px",
        lg: "2px",
        xl: "2px",
      },
    },
    semantic: {
      primary: flat("var(--blue)"),
      focusRing: FOCUS,
      // Fields have a ring of their own, and PrimeNG’s is none.
      formField: { focusRing: { ...FOCUS, shadow: "none" } },
      disabledOpacity: "1",
      colorScheme: { light: scheme, dark: scheme },
    },
    components: {
      button: {
        root: { paddingX: "var(--space-4)", paddingY: "0", gap: "var(--space-3)", label: { fontWeight: "700" } },
        colorScheme: { light: buttons, dark: buttons },
      },
      select: {
        option: { padding: "var(--space-3)" },
        overlay: { background: "var(--sheet)", borderColor: "var(--ink)", color: "var(--ink)", shadow: "none" },
      },
      autocomplete: {
        option: { padding: "var(--space-3)" },
        overlay: { background: "var(--sheet)", borderColor: "var(--ink)", color: "var(--ink)", shadow: "none" },
      },
      drawer: {
        root: { background: "var(--sheet)", color: "var(--ink)", borderColor: "var(--ink)", shadow: "none" },
        header: { padding: "var(--space-3) var(--space-4)" },
        content: { padding: "0 var(--space-4) var(--space-4)" },
      },
      progressbar: {
        root: { background: "var(--rule)", borderRadius: "var(--corner)", height: "var(--space-5)" },
        value: { background: "var(--blue)" },
      },
      tooltip: { root: { background: "var(--ink)", color: "var(--sheet)", shadow: "none" } },
      datatable: {
        headerCell: { padding: "var(--space-2) var(--space-3)", color: "var(--graphite)" },
        bodyCell: { padding: "var(--space-2) var(--space-3)" },
        row: { background: "transparent" },
        colorScheme: {
          light: { root: { borderColor: "var(--rule)" } },
          dark: { root: { borderColor: "var(--rule)" } },
        },
      },
      checkbox: {
        root: { width: "22px", height: "22px" },
        icon: { size: "16px" },
      },
      skeleton: {
        colorScheme: {
          light: { root: { background: "var(--rule)", animationBackground: "var(--wash)" } },
          dark: { root: { background: "var(--rule)", animationBackground: "var(--wash)" } },
        },
      },
      radiobutton: { root: { width: "22px", height: "22px" }, icon: { size: "12px" } },
      togglebutton: {
        root: { padding: "0", fontWeight: "400" },
        content: { padding: "0 var(--space-3)", checkedShadow: "none" },
        colorScheme: { light: answers, dark: answers },
      },
      toast: { colorScheme: { light: notices, dark: notices } },
    },
  },
);
