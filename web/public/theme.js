// The theme, before anything is drawn: dark (kiln) or light (washi), as it was last chosen.
(() => {
  const root = document.documentElement;
  const kept = () => {
    try {
      return localStorage.getItem('theme') || 'kiln';
    } catch {
      return root.dataset.theme;
    }
  };
  root.dataset.theme = kept();
  document.addEventListener('DOMContentLoaded', () => {
    const button = document.getElementById('theme');
    if (!button) return;
    const show = () => {
      button.textContent = root.dataset.theme === 'kiln' ? 'light' : 'dark';
    };
    show();
    button.onclick = () => {
      root.dataset.theme = root.dataset.theme === 'kiln' ? 'washi' : 'kiln';
      try {
        localStorage.setItem('theme', root.dataset.theme);
      } catch {
        // Without storage only the choice is lost.
      }
      show();
    };
  });
})();
