import "fake-indexeddb/auto";
