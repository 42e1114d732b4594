document.title = 'Drive Keep';
