"""The window: it draws what the app and the core computed."""
