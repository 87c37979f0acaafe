"""Worker processes for the solver and for files that people send.

What fails there takes nothing else with it, and stopping is immediate.
"""
