"""Deliveries of a job: started, named, checked, carried out, downloaded."""
