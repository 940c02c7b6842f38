ALTER TABLE `patterns` ADD `colour` text;--> statement-breakpoint
ALTER TABLE `patterns` ADD `metre` text;--> statement-breakpoint
ALTER TABLE `projects` ADD `seed` integer;