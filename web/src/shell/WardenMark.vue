<template>
  <svg viewBox="0 0 24 24" aria-hidden="true">
    <g fill="none" stroke="currentColor" stroke-width="2.4">
      <path d="M5 3v18M19 3v18M5 9h14M5 15h14" />
    </g>
    <path d="M12 9v6" stroke="var(--rust)" stroke-width="2.4" />
  </svg>
</template>
