"""Starting the product on one machine: its own MariaDB, the server, and nothing left behind."""
