"""Imports: files of records, stored row by row, with the rejected rows to be had back."""
