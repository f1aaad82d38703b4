"""Lead-ins and fills: their kinds as data, their notes, and what is offered and taken at a chord."""
