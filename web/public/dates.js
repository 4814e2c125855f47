// A browser loads its tables of dates when the first date is written, which takes longer than drawing a page.
// Here they load while the program itself is still on its way.
new Date().toLocaleDateString("en-GB", { weekday: "long", timeZone: "UTC" });
