"""Words for everything the core answers with: names, sentences, advice; no page is written here."""
