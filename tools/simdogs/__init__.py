"""Made-up dogs rendered to photos whose every true length is known. A developers' tool."""
