"""Drills: simulated machines on the very same screens, in a room beside the workshop that nothing leaves."""
