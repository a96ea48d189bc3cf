// Nobody is signed in: the round that was kept for offline is another's. What waits to be sent stays with its keeper.
if ("caches" in window) caches.delete("ridgeback-round").catch(() => {});
