"""What is fed: the week's food, the schedule of feeds, what each feed holds, what was eaten."""
