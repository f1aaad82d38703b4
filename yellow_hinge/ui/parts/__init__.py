"""What every room is given: handles of rooms, commands, the ribbon, the keyboards, lists, notices."""
