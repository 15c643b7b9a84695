// Before the first paint, so that a chosen theme does not flash.
try {
  const theme = localStorage.getItem('miser.theme')
  if (theme === 'light' || theme === 'dark') document.documentElement.dataset.theme = theme
} catch {
  // Storage is closed: the system's theme stands.
}
