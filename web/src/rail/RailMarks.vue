<template>
  <svg width="0" height="0" class="absolute" aria-hidden="true">
    <defs>
      <pattern id="mark-filament" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="3" height="8" fill="var(--block-ink)" opacity="0.45" />
      </pattern>
      <pattern id="mark-led" width="9" height="9" patternUnits="userSpaceOnUse">
        <path d="M4.5 1v7" stroke="var(--block-ink)" stroke-width="1.4" opacity="0.5" />
      </pattern>
      <pattern id="mark-engine" width="6" height="6" patternUnits="userSpaceOnUse">
        <circle cx="3" cy="3" r="1.3" fill="var(--block-ink)" opacity="0.55" />
      </pattern>
      <pattern id="mark-accessory" width="6" height="5" patternUnits="userSpaceOnUse">
        <rect width="6" height="2" fill="var(--block-ink)" opacity="0.4" />
      </pattern>
      <pattern id="mark-resistor" width="8" height="8" patternUnits="userSpaceOnUse">
        <path d="M0 0 8 8M8 0 0 8" stroke="var(--block-ink)" stroke-width="1.4" opacity="0.5" />
      </pattern>
      <pattern id="mark-owed" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <rect width="2.6" height="7" fill="var(--brick)" />
      </pattern>
    </defs>
  </svg>
</template>
