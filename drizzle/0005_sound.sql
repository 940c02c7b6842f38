ALTER TABLE `projects` ADD `room` text;--> statement-breakpoint
ALTER TABLE `tracks` ADD `shaping` text;--> statement-breakpoint
ALTER TABLE `tracks` ADD `mix` text;