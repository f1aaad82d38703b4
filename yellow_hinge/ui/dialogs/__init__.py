"""Windows of their own: questions, hands, finding a command."""
