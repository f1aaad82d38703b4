"""The tune in the right hand, and what lies under it."""
