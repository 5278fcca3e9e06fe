"""A whole workshop: out as open files, in again elsewhere, and gone for good."""
