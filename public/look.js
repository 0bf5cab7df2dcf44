// Before the first paint, so that the night look does not flash.
document.documentElement.dataset.look = localStorage.getItem('hafen.look') || 'day';
