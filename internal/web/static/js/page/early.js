// Says before the first paint that scripts run, so that what needs them may show.
document.documentElement.classList.add("js");
