ALTER TABLE `parts` ADD `generated` text;--> statement-breakpoint
ALTER TABLE `patterns` ADD `chords` text;