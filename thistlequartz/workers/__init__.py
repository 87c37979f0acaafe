"""What the solver is asked, and files that people send, in processes of their own: what explodes
there takes nothing with it, and stopping is at once.
"""
