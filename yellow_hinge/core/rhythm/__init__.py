"""How voicings are struck in time: patterns as data, fitted to every meter and chord length."""
