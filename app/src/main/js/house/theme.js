/* Sets the theme before the page is drawn, so that nothing flashes. A classic script for that reason. */
document.documentElement.dataset.theme = localStorage.getItem("ancora-theme") ?? "dark";
